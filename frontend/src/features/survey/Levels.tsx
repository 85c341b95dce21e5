import { Deed, percent } from "../../ui";
import { useCorrections, useWorkspace } from "../song";

const WORDS = {
  halve_tempo: "count half as fast",
  double_tempo: "count twice as fast",
  three_as_one: "count three beats as one",
  one_as_three: "count each beat as three",
};

/** The other ways to count the song, each with its tempo and how likely it is by ear. */
export function Levels() {
  const { chart } = useWorkspace();
  const corrections = useCorrections();
  return chart.levels.map(({ kind, bpm, meter, odds }) => (
    <Deed key={kind} onPress={() => corrections.send({ kind })}>
      {WORDS[kind]}: {Math.round(bpm)}
      {meter !== chart.meter && ` in ${meter}`}
      {odds !== null && `, ${percent(odds)} likely`}
    </Deed>
  ));
}
