import { useEffect, useRef, useState } from "react";
import { useNamed } from "../../api/chords";
import { keyboards } from "../../devices/midi";
import { Deed, Deeds, KeyboardPad, KeyCap, useShortcuts, withSigns } from "../../ui";
import { MarginHeading, useWorkspace } from "../song";

interface PlayedChordProps {
  beat: string;
  onName: (symbol: string) => void;
}

/** Keys held down together, on the page or on a keyboard that is plugged in: what chord are they? */
export function PlayedChord({ beat, onName }: PlayedChordProps) {
  const { song, player } = useWorkspace();
  const [pressed, setPressed] = useState<ReadonlySet<number>>(new Set());
  const [said, setSaid] = useState("");
  const growing = useRef(new Set<number>());
  const named = useNamed(song.id, [...pressed], beat);
  useEffect(
    () =>
      keyboards.listen((held) => {
        // A grip is what was held together before the hands let go.
        if (held.size === 0) growing.current = new Set();
        else {
          for (const key of held) growing.current.add(key);
          setPressed(new Set(growing.current));
        }
      }),
    [],
  );
  // biome-ignore lint/correctness/useExhaustiveDependencies: another place begins with no keys down
  useEffect(() => setPressed(new Set()), [beat]);
  const toggle = (midi: number) => {
    if (!pressed.has(midi)) void player.sound([midi], 1);
    setPressed((before) => {
      const next = new Set(before);
      if (!next.delete(midi)) next.add(midi);
      return next;
    });
  };
  const names = pressed.size > 1 ? (named.data ?? []) : [];
  useShortcuts(
    names.length
      ? {
          enter: () => names[0] && onName(names[0].symbol),
          "shift+enter": () => names[1] && onName(names[1].symbol),
          escape: () => setPressed(new Set()),
        }
      : {},
  );
  return (
    <section>
      <MarginHeading>Play it</MarginHeading>
      <KeyboardPad
        low={36}
        high={84}
        pressed={pressed}
        onToggle={toggle}
        width={252}
        height={56}
        label="Keys to play the chord on; the letters C to B press them"
      />
      <div role="status">
        {names.length > 0 && (
          <ol style={{ listStyle: "none", margin: "0.4rem 0", padding: 0 }}>
            {names.slice(0, 3).map((n, i) => (
              <li key={n.label}>
                <Deed cap={i === 0 ? "Enter" : undefined} onPress={() => onName(n.symbol)}>
                  <b>{withSigns(n.symbol)}</b>
                </Deed>
                <em style={{ display: "block", color: "var(--soft)", lineHeight: 1.15 }}>{withSigns(n.why)}</em>
              </li>
            ))}
          </ol>
        )}
      </div>
      <Deeds>
        {pressed.size > 0 && (
          <Deed cap="Esc" onPress={() => setPressed(new Set())}>
            let go
          </Deed>
        )}
        <Deed onPress={() => void keyboards.connect().then(setSaid)}>use a MIDI keyboard</Deed>
      </Deeds>
      {said && <p role="status">{said}</p>}
      <p style={{ color: "var(--soft)", fontSize: "0.9rem" }}>
        With the keys in focus: <KeyCap>C</KeyCap> … <KeyCap>B</KeyCap> press, <KeyCap>↑</KeyCap> <KeyCap>↓</KeyCap>{" "}
        bend by a half step.
      </p>
    </section>
  );
}
