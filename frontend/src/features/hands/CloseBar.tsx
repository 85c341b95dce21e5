import { useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { withSigns } from "../../ui";
import { Drawing, NoteMark } from "./BarMarks";
import { Ruling } from "./BarRuling";
import { gauge } from "./barGauge";
import { type Change, changeByKey, foresee, type Made, neighbour, type Place, sayNote } from "./barNotes";

interface CloseBarProps {
  bar: Schemas["BarCloseOut"];
  /** Beats by which notes are moved, lengthened and put: 1 over this. */
  division: number;
  onChange: (change: Change) => void;
}

type BarNote = Schemas["BarNoteOut"];

const same = (a: Place | null, b: Place) => a?.hand === b.hand && a.start === b.start && a.midi === b.midi;
const noteAt = (bar: Schemas["BarCloseOut"], place: Place): BarNote | undefined =>
  bar.hands.find((h) => h.hand === place.hand)?.notes.find((n) => n.start === place.start && n.midi === place.midi);

/**
 * A bar opened downwards: time runs down, every mark stands under its key and trails as long as it sounds; outlined is proposed, full is written.
 * Notes are put by pressing an empty place, moved by pulling them, and changed by keys; no key waits for the answer to the one before.
 */
export function CloseBar({ bar, division, onChange }: CloseBarProps) {
  const [chosen, setChosen] = useState<Place | null>(null);
  const [coming, setComing] = useState<BarNote | null>(null); // the chosen note, while its change is on its way
  const [pulled, setPulled] = useState<{ from: Place; at: { midi: number; step: number } } | null>(null);
  const svg = useRef<SVGSVGElement>(null);
  const rule = gauge(bar, division);
  const note = chosen && (noteAt(bar, chosen) ?? coming);

  const pointAt = (e: { clientX: number; clientY: number }) => {
    const box = svg.current?.getBoundingClientRect();
    return rule.under(e.clientX - (box?.left ?? 0), e.clientY - (box?.top ?? 0));
  };
  const make = (made: Made, from?: BarNote | null) => {
    setChosen(made.next);
    setComing(from ? foresee(made, from, bar) : null);
    onChange(made.change);
  };
  const put = (e: React.PointerEvent) => {
    const at = pointAt(e);
    if (!at.inside) return;
    const place = { hand: rule.handAt(at.midi), start: rule.beat(at.step), midi: at.midi };
    make({ change: { ...place, add: true }, next: place });
  };
  const drop = (e: React.PointerEvent) => {
    if (!pulled) return;
    const { from } = pulled;
    const at = pointAt(e);
    const next = { hand: from.hand, start: rule.beat(at.step), midi: at.midi };
    setPulled(null);
    if (!same(from, next)) make({ change: { ...from, key: next.midi, to: next.start }, next }, noteAt(bar, from));
  };
  const press = (e: React.KeyboardEvent) => {
    if ([",", "."].includes(e.key)) {
      e.preventDefault();
      setChosen(neighbour(bar, chosen, e.key === "." ? 1 : -1) ?? null);
      return;
    }
    const made = chosen && note && changeByKey(e, chosen, note, bar, division);
    if (!made) return;
    e.preventDefault();
    make(made, note);
  };
  const idOf = (place: Place) => `mark-${place.hand}-${place.start.replace("/", "_")}-${place.midi}`;
  return (
    <>
      <Drawing
        ref={svg}
        width={rule.width}
        height={rule.height}
        role="listbox"
        tabIndex={0}
        aria-label={bar.bar ? `Notes of bar ${bar.bar}` : "Notes of the pickup"}
        aria-activedescendant={chosen && noteAt(bar, chosen) ? idOf(chosen) : undefined}
        onFocus={() => chosen || setChosen(neighbour(bar, null, 0) ?? null)}
        onKeyDown={press}
        onPointerDown={(e) => (e.target as Element).closest("[role=option]") || put(e)}
        onPointerMove={(e) => pulled && setPulled({ ...pulled, at: pointAt(e) })}
        onPointerUp={drop}
        onPointerLeave={() => setPulled(null)}
      >
        <Ruling bar={bar} rule={rule} />
        {bar.hands.map((hand) =>
          hand.notes.map((n) => {
            const place: Place = { hand: hand.hand as Place["hand"], start: n.start, midi: n.midi };
            return (
              <NoteMark
                key={`${hand.hand} ${n.start} ${n.midi} ${n.grace}`}
                id={idOf(place)}
                note={n}
                hand={place.hand}
                written={hand.written}
                chosen={same(chosen, place)}
                said={sayNote(place.hand, n, bar)}
                at={rule.mark(n)}
                onPress={(e) => {
                  setChosen(place);
                  if (!n.grace) setPulled({ from: place, at: pointAt(e) });
                }}
              />
            );
          }),
        )}
        {pulled && (
          <circle
            className={`ghost ${pulled.from.hand}`}
            cx={rule.across(pulled.at.midi)}
            cy={rule.down(pulled.at.step / division)}
            r={6}
          />
        )}
      </Drawing>
      <p role="status" style={{ margin: 0, minHeight: "1.3em" }}>
        {chosen && note?.pitch && withSigns(sayNote(chosen.hand, note, bar))}
      </p>
    </>
  );
}
