import { useEffect, useRef, useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { withSigns } from "../../ui";
import { Ruling } from "./BarRuling";
import { gauge } from "./barGauge";
import { type Change, changeByKey, type Place, sayNote } from "./barNotes";

const Drawing = styled.svg`
  display: block;
  touch-action: none;
  text {
    fill: var(--soft);
    font-size: 11px;
  }
  .left {
    stroke: var(--left);
    fill: var(--left);
  }
  .right {
    stroke: var(--right);
    fill: var(--right);
  }
  .trail {
    stroke-width: 3;
  }
  .trail.rings {
    stroke-dasharray: 1 5;
    stroke-linecap: round;
  }
  .mark {
    stroke-width: 2;
  }
  .mark.proposed {
    fill: var(--ground);
  }
  [role="button"] {
    cursor: grab;
    outline: none;
  }
  [role="button"]:focus-visible .halo,
  [role="button"][aria-pressed="true"] .halo {
    stroke: var(--ink);
    stroke-width: 1.5;
  }
  .halo {
    fill: transparent;
    stroke: none;
  }
  .ghost {
    opacity: 0.45;
    pointer-events: none;
  }
`;

interface CloseBarProps {
  bar: Schemas["BarCloseOut"];
  /** Beats by which notes are moved, lengthened and put: 1 over this. */
  division: number;
  onChange: (change: Change) => void;
}

/**
 * A bar opened downwards: time runs down, every mark stands under its key and trails as long as it sounds; outlined is proposed, full is written.
 * Notes are put by pressing an empty place, moved by pulling them, and changed by keys.
 */
export function CloseBar({ bar, division, onChange }: CloseBarProps) {
  const [chosen, setChosen] = useState<Place | null>(null);
  const [pulled, setPulled] = useState<{ from: Place; at: { midi: number; step: number } } | null>(null);
  const svg = useRef<SVGSVGElement>(null);
  const rule = gauge(bar, division);

  // biome-ignore lint/correctness/useExhaustiveDependencies: what was changed by keys is found again in the new drawing
  useEffect(() => {
    const mark = svg.current?.querySelector<SVGGElement>('[aria-pressed="true"]');
    if (svg.current?.dataset.keys === "yes") mark?.focus();
  }, [bar]);

  const pointAt = (e: { clientX: number; clientY: number }) => {
    const box = svg.current?.getBoundingClientRect();
    return rule.under(e.clientX - (box?.left ?? 0), e.clientY - (box?.top ?? 0));
  };
  const make = (change: Change, next: Place) => {
    setChosen(next);
    onChange(change);
  };
  const drop = (e: React.PointerEvent) => {
    if (!pulled) return;
    setPulled(null);
    const at = pointAt(e);
    const note = { ...pulled.from };
    const to = rule.beat(at.step);
    if (at.midi === note.midi && to === note.start) return;
    make(
      { hand: note.hand, start: note.start, midi: note.midi, key: at.midi, to },
      { hand: note.hand, start: to, midi: at.midi },
    );
  };
  return (
    <>
      <Drawing
        ref={svg}
        width={rule.width}
        height={rule.height}
        role="group"
        aria-label={bar.bar ? `Notes of bar ${bar.bar}` : "Notes of the pickup"}
        onPointerDown={(e) => {
          if ((e.target as Element).closest("[role=button]")) return;
          const at = pointAt(e);
          if (!at.inside) return;
          const start = rule.beat(at.step);
          make(
            { hand: rule.handAt(at.midi), start, midi: at.midi, add: true },
            { hand: rule.handAt(at.midi), start, midi: at.midi },
          );
        }}
        onPointerMove={(e) => pulled && setPulled({ ...pulled, at: pointAt(e) })}
        onPointerUp={drop}
        onPointerLeave={() => setPulled(null)}
      >
        <Ruling bar={bar} rule={rule} />
        {bar.hands.map((hand) =>
          hand.notes.map((n) => {
            const place: Place = { hand: hand.hand as Place["hand"], start: n.start, midi: n.midi };
            const { x, y, end, size } = rule.mark(n);
            const look = `mark ${hand.hand}${hand.written ? "" : " proposed"}`;
            const here = chosen?.hand === place.hand && chosen.start === place.start && chosen.midi === place.midi;
            return (
              // biome-ignore lint/a11y/useSemanticElements: a mark of the drawing cannot be a button of HTML
              <g
                key={`${hand.hand} ${n.start} ${n.midi} ${n.grace}`}
                role="button"
                tabIndex={0}
                aria-pressed={here}
                aria-label={sayNote(place.hand, n, bar)}
                onFocus={() => setChosen(place)}
                onPointerDown={(e) => {
                  svg.current?.setAttribute("data-keys", "no");
                  if (!n.grace) setPulled({ from: place, at: pointAt(e) });
                }}
                onKeyDown={(e) => {
                  const made = changeByKey(e, place, n, bar, division);
                  if (!made) return;
                  e.preventDefault();
                  svg.current?.setAttribute("data-keys", "yes");
                  make(made.change, made.next);
                }}
              >
                {!n.grace && (
                  <line className={`trail ${hand.hand}${n.rings ? " rings" : ""}`} x1={x} x2={x} y1={y} y2={end} />
                )}
                <circle className="halo" cx={x} cy={y} r={11} />
                {hand.hand === "left" ? (
                  <rect className={look} x={x - size} y={y - size} width={2 * size} height={2 * size} />
                ) : (
                  <circle className={look} cx={x} cy={y} r={size + 0.6} />
                )}
                {n.optional && (
                  <text x={x + 7} y={y - 4}>
                    *
                  </text>
                )}
              </g>
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
        {chosen && withSigns(nameChosen(bar, chosen))}
      </p>
    </>
  );
}

function nameChosen(bar: Schemas["BarCloseOut"], chosen: Place): string {
  const hand = bar.hands.find((h) => h.hand === chosen.hand);
  const note = hand?.notes.find((n) => n.start === chosen.start && n.midi === chosen.midi);
  return note ? sayNote(chosen.hand, note, bar) : "";
}
