/** Exact beats, written as the server writes them: "8", "7/2". */

export interface Fraction {
  n: number;
  d: number;
}

const gcd = (a: number, b: number): number => (b ? gcd(b, a % b) : Math.abs(a));

export function parseBeats(text: string): Fraction {
  const [n = "0", d = "1"] = text.split("/");
  return { n: Number(n), d: Number(d) };
}

/** `text` plus `n/d` beats. */
export function addBeats(text: string, n: number, d = 1): string {
  const a = parseBeats(text);
  const top = a.n * d + n * a.d;
  const bottom = a.d * d;
  const shared = gcd(top, bottom) || 1;
  return bottom / shared === 1 ? `${top / shared}` : `${top / shared}/${bottom / shared}`;
}

export const beatsOf = (text: string): number => {
  const { n, d } = parseBeats(text);
  return n / d;
};
