import { useEffect, useRef, useState } from "react";
import { keyboards } from "../../devices/midi";
import { judge, type Slips } from "./rehearsal";

const NAMES = ["C", "C♯", "D", "E♭", "E", "F", "F♯", "G", "A♭", "A", "B♭", "B"];
const nameKeyOf = (midi: number) => `${NAMES[midi % 12]}${Math.floor(midi / 12) - 1}`;

/** Listens to the keyboard while rehearsing: what is struck is held against the keys wanted, slips are counted by bar. */
export function useRehearsal(
  rehearsing: boolean,
  bar: number | undefined,
  wanted: readonly number[],
  turn: (by: number) => void,
) {
  const [told, setTold] = useState("");
  const slips = useRef<Slips>(new Map());
  useEffect(() => {
    if (!rehearsing || bar === undefined) return;
    const struck = new Set<number>();
    return keyboards.listen((held) => {
      if (held.size === 0) {
        struck.clear();
        return;
      }
      for (const key of held) struck.add(key);
      const answer = judge(struck, wanted);
      if (answer.wrong.length) {
        slips.current.set(bar, (slips.current.get(bar) ?? 0) + 1);
        setTold(
          `Not ${answer.wrong.map(nameKeyOf).join(", ")}; ${answer.missing.length} of ${wanted.length} still to come.`,
        );
        struck.clear();
      } else if (answer.missing.length === 0) {
        setTold("Right.");
        turn(1);
      } else setTold(`${answer.missing.length} more.`);
    });
  }, [rehearsing, bar, wanted, turn]);
  return { told, setTold, slips };
}
