/** The stops of the first walk: what stands there to be seen, and what to do. A stop that waits for a change is passed by making it. */
export interface Stop {
  view: "survey" | "parts" | "valley" | "script" | "hand-outs";
  title: string;
  text: string;
  /** What is marked: the attribute `data-stop` of elements of the page. */
  mark: string;
  /** Passed by any change of the song. */
  waits?: boolean;
}

export const STOPS: readonly Stop[] = [
  {
    view: "survey",
    title: "Where Valley is unsure",
    text: "The fainter a chord’s ink, the less sure Valley is of it. Press N for the first place to check, and G to hear it in the recording. Space plays and stops, everywhere.",
    mark: "ground",
  },
  {
    view: "survey",
    title: "Say what you hear",
    text: "Each reading tells which notes set it apart. Press 1 to keep the first, 2 to 5 for another, or T to type a chord. It is saved at once; Ctrl+Z takes it back.",
    mark: "readings",
    waits: true,
  },
  {
    view: "parts",
    title: "What has to be learned",
    text: "The song is cut into parts. A part that goes like an earlier one hangs on it, and is taught once. Choose a part to name it, or to move where it begins.",
    mark: "parts",
  },
  {
    view: "valley",
    title: "What two hands play",
    text: "Every note of both hands, grip by grip. Choose an easier or a fuller level and another style, press H to hear the grip, and the arrow keys to go on.",
    mark: "voicing",
  },
  {
    view: "script",
    title: "The words to film",
    text: "What to say and play, step by step; what is wrong stands beside its step. H sounds the step, F opens the prompter. What you write over a step stays yours.",
    mark: "script",
  },
  {
    view: "hand-outs",
    title: "What viewers get",
    text: "Sheet music first, then the lesson, MIDI, pictures, captions, practice tracks and films. They are made of the same notes as the words. Print the page, or take all as one file.",
    mark: "handouts",
  },
];
