import type { Schemas } from "../../api/client";
import { framing, KeyboardPicture, withSigns } from "../../ui";

/** A grip on stage: its chord, where it comes, its keys; the one to come smaller beside it. */
export function GripShown({ grip, next = false }: { grip: Schemas["GripOut"] | undefined; next?: boolean }) {
  if (!grip) return null;
  const lit = [
    ...grip.left.map((n) => ({ midi: n.midi, hand: "left" as const, optional: n.optional })),
    ...grip.right.map((n) => ({ midi: n.midi, hand: "right" as const, optional: n.optional })),
  ];
  const frame = framing(lit.map((n) => n.midi));
  return (
    <div className="grip" data-next={next}>
      <b>
        {withSigns(grip.symbol)}
        <small>
          {next ? "then" : `bar ${grip.bar}`}, on {grip.count}
        </small>
      </b>
      <KeyboardPicture
        low={frame.low}
        high={frame.high - 1}
        width={next ? 290 : 540}
        height={next ? 74 : 136}
        lit={lit}
        label={`${next ? "Then keys" : "Keys"} of ${withSigns(grip.symbol)}`}
      />
    </div>
  );
}
