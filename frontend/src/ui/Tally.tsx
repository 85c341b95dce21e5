const SHOWN = 25;

/** A number as strokes in fives, as one counts on paper; the crossing stroke is the fifth. */
export function Tally({ count, of }: { count: number; of: string }) {
  const drawn = Math.min(count, SHOWN);
  const fives = Math.floor(drawn / 5);
  const rest = drawn % 5;
  const width = fives * 27 + (rest ? rest * 5 + 3 : 0);
  const stroke = (x: number, key: string) => (
    <path key={key} d={`M${x} 3l${(x % 3) - 1} 15`} stroke="currentColor" strokeWidth="1.7" strokeLinecap="round" />
  );
  return (
    <span style={{ display: "inline-flex", alignItems: "center", gap: "0.35rem" }} title={`${count} ${of}`}>
      <svg width={width} height="21" aria-hidden="true" style={{ flex: "none" }}>
        {Array.from({ length: fives }, (_, i) => (
          <g key={i} transform={`translate(${i * 27} 0)`}>
            {[3, 8, 13, 18].map((x) => stroke(x, `${x}`))}
            <path d="M0 16L22 6" stroke="currentColor" strokeWidth="1.7" strokeLinecap="round" />
          </g>
        ))}
        <g transform={`translate(${fives * 27} 0)`}>
          {Array.from({ length: rest }, (_, k) => stroke(3 + 5 * k, `r${k}`))}
        </g>
      </svg>
      <span>
        {count} {of}
      </span>
    </span>
  );
}
