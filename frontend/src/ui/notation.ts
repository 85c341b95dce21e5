/** Sharps and flats as signs: "Bb/D" is shown as "B♭/D". Only accidentals are touched, never words. */
export function withSigns(text: string): string {
  return text
    .replace(/\b([A-G])bb/g, "$1♭♭")
    .replace(/\b([A-G])b(?![a-z])/g, "$1♭")
    .replace(/\b([A-G])b(?=(m|maj|dim|aug|sus|add)\S*)/g, "$1♭")
    .replace(/([A-G])#/g, "$1♯")
    .replace(/(\d)b(\d)/g, "$1♭$2")
    .replace(/(?<=[A-G]m?\d?)b(\d)/g, "♭$1");
}

/** 0.481 → "48 %". */
export function percent(share: number): string {
  return `${Math.round(share * 100)}\u00a0%`; // the sign stays with its number
}

/** 83 → "1:23". */
export function clock(seconds: number): string {
  const whole = Math.max(0, Math.floor(seconds));
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}

/** How long something takes, as it is said: "45 s", "1 min 10 s", and from ten minutes on "12 min". */
export function sayMinutes(seconds: number): string {
  if (seconds >= 597) return `${Math.round(seconds / 60)} min`;
  const whole = Math.max(5, Math.round(seconds / 5) * 5);
  const parts = [whole >= 60 && `${Math.floor(whole / 60)} min`, whole % 60 && `${whole % 60} s`];
  return parts.filter(Boolean).join(" ");
}

/** Metres whose beat is dotted and falls into three: 6/8, 9/8, 12/8, 6/4. */
export function isCompound(meter: string): boolean {
  const top = Number(meter.split("/")[0]);
  return top > 3 && top % 3 === 0;
}
