import { Choice, percent } from "../../ui";

interface Props {
  label: string;
  value: number;
  onChange: (value: number) => void;
}

/** The whole song, or one of its parts. */
export function PartChoice({ parts, ...choice }: Props & { parts: readonly number[] }) {
  const options = parts.map((value) => ({ value, words: `part ${value}` }));
  return <Choice hidden options={[{ value: 0, words: "the whole song" }, ...options]} {...choice} />;
}

const SPEEDS = [0.5, 0.7, 0.85, 1].map((value) => ({ value, words: percent(value) }));

/** How fast it is played, against the song. */
export const SpeedChoice = (choice: Props) => <Choice hidden options={SPEEDS} {...choice} />;
