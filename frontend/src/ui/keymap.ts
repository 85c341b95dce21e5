/**
 * The keys of the whole product, in one place: what each does, and what it is called where it is listed. A page binds its deeds by these names and shows
 * the lists of what it binds; a key that stands in two lists means the same thing wherever it can.
 */

/** ``keys`` as ``nameKey`` calls them; ``caps`` as they are printed, where they are not simply those; ``what`` in the words of the list. */
export interface KeyRow {
  readonly keys: readonly string[];
  readonly caps?: readonly string[];
  readonly what: string;
}
export type KeyGroup = Readonly<Record<string, KeyRow>>;

const row = (keys: string | readonly string[], what: string, caps?: readonly string[]): KeyRow => ({
  keys: typeof keys === "string" ? [keys] : keys,
  what,
  ...(caps ? { caps } : {}),
});

export const KEYS = {
  help: { list: row("?", "this list") },
  /** On every page of a song. */
  song: {
    undo: row("mod+z", "take the last change back", ["Ctrl", "Z"]),
    redo: row(["mod+shift+z", "mod+y"], "do it again", ["Ctrl", "Y"]),
    survey: row("shift+s", "go to the Survey", ["Shift", "S"]),
    parts: row("shift+p", "go to the Parts", ["Shift", "P"]),
    valley: row("shift+v", "go to the Valley", ["Shift", "V"]),
    script: row("shift+c", "go to the Script", ["Shift", "C"]),
    handouts: row("shift+h", "go to the Hand-outs", ["Shift", "H"]),
    records: row("shift+r", "go to the Records", ["Shift", "R"]),
    shelf: row("shift+l", "back to the shelf", ["Shift", "L"]),
    partBefore: row("pageup", "part before", ["Page up"]),
    partAfter: row("pagedown", "part after", ["Page down"]),
    mend: row("z", "mend what is found here, where one way is sure"),
  },
  player: {
    play: row(" ", "play from the place in hand, or stop; a button is pressed by Enter", ["Space"]),
    loop: row("l", "repeat the bars that are marked, then this part, then this bar, then go on"),
    countIn: row("k", "count in one bar before playing, and before each repeat"),
    metronome: row("'", "metronome"),
    source: row("m", "recording or piano"),
    slower: row("[", "slower"),
    faster: row("]", "faster"),
  },
  survey: {
    chordBefore: row("arrowleft", "chord before", ["←"]),
    chordAfter: row("arrowright", "chord after", ["→"]),
    beatBefore: row("shift+arrowleft", "a beat back, also where no chord begins", ["Shift", "←"]),
    beatAfter: row("shift+arrowright", "a beat on", ["Shift", "→"]),
    barBefore: row("shift+arrowup", "a bar back", ["Shift", "↑"]),
    barAfter: row("shift+arrowdown", "a bar on", ["Shift", "↓"]),
    nextDoubt: row("n", "next place to check"),
    mark: row("b", "mark bars from here; at another bar: up to there; again: forget them"),
    chord: row("q", "desk: the chord"),
    tune: row("w", "desk: the tune"),
    bar: row("y", "desk: the bar"),
    versions: row("v", "desk: versions"),
  },
  chord: {
    reading1: row("1", "choose another reading of the chord", ["1", "…", "5"]),
    reading2: row("2", ""),
    reading3: row("3", ""),
    reading4: row("4", ""),
    reading5: row("5", ""),
    none: row("0", "no chord here"),
    type: row("t", "type a chord"),
    playIt: row("p", "play the chord on the keys"),
    hear: row("h", "hear the chord on the piano"),
    hearPlace: row("g", "hear this place in the recording"),
    split: row("s", "split in two"),
    insert: row("i", "put a chord in"),
    join: row("j", "join to the one before"),
    takeOut: row("x", "take out"),
    earlier: row(",", "half a beat earlier; a whole one with Shift"),
    later: row(".", "half a beat later; a whole one with Shift"),
    muchEarlier: row("<", ""),
    muchLater: row(">", ""),
  },
  offer: {
    repeats: row("r", "after a change: in the repeats too"),
    only: row("o", "after a change: only here"),
  },
  tune: {
    before: row("arrowleft", "note before", ["←"]),
    after: row("arrowright", "note after", ["→"]),
    higher: row("arrowup", "higher; with Shift an octave", ["↑"]),
    lower: row("arrowdown", "lower; with Shift an octave", ["↓"]),
    octaveUp: row("shift+arrowup", ""),
    octaveDown: row("shift+arrowdown", ""),
    earlier: row(",", "earlier"),
    later: row(".", "later"),
    shorter: row("-", "shorter"),
    longer: row("+", "longer"),
    add: row("a", "add a note"),
    takeOut: row("x", "take out"),
    again: row("c", "strike it again"),
    join: row("j", "join to the one before"),
    grace: row("e", "grace note"),
    hear: row("g", "hear this place in the recording"),
  },
  bar: {
    tap: row("t", "tap the tempo"),
    earlier: row(",", "the beat a touch earlier"),
    later: row(".", "the beat a touch later"),
  },
  parts: {
    before: row("arrowleft", "part before", ["←"]),
    after: row("arrowright", "part after", ["→"]),
    part: row("q", "desk: the part"),
    chords: row("w", "desk: its chords"),
    lessons: row("y", "desk: lessons"),
  },
  part: {
    join: row("j", "join to the one before"),
    earlier: row(",", "begin a bar earlier"),
    later: row(".", "begin a bar later"),
  },
  valley: {
    gripAfter: row("arrowdown", "grip after; with Shift beat by beat", ["↓"]),
    gripBefore: row("arrowup", "grip before; with Shift beat by beat", ["↑"]),
    beatAfter: row("shift+arrowdown", ""),
    beatBefore: row("shift+arrowup", ""),
    noteAfter: row("arrowright", "next note of the grip", ["→"]),
    noteBefore: row("arrowleft", "note of the grip before", ["←"]),
    hear: row("h", "hear the grip"),
    lower: row(",", "its note lower"),
    higher: row(".", "its note higher"),
    otherHand: row("o", "its note to the other hand"),
    takeOut: row("x", "take its note out"),
    double: row("d", "double its note an octave higher"),
    star: row("s", "star its note: it may be left out"),
    invert: row("i", "invert the hand"),
    back: row("b", "back to Valley’s choice"),
    finger1: row("alt+1", "finger of the note", ["Alt", "1", "…", "5"]),
    finger2: row("alt+2", ""),
    finger3: row("alt+3", ""),
    finger4: row("alt+4", ""),
    finger5: row("alt+5", ""),
    grip: row("q", "desk: the grip"),
    bar: row("u", "desk: the bar seen close"),
    pattern: row("w", "desk: the pattern"),
    joins: row("y", "desk: what joins chords"),
    voicing: row("v", "desk: the hands"),
    playing: row("p", "desk: play it in"),
  },
  /** A note of the bar seen close, while it has the focus. */
  closeBar: {
    move: row([], "a note of the bar seen close: another key or place", ["←", "→", "↑", "↓"]),
    change: row([], "longer, shorter, other hand, star, another note", ["+", "-", "H", "S", "N"]),
  },
  script: {
    after: row("arrowdown", "step after", ["↓"]),
    before: row("arrowup", "step before", ["↑"]),
    moveDown: row("shift+arrowdown", "move the step down", ["Shift", "↓"]),
    moveUp: row("shift+arrowup", "move the step up", ["Shift", "↑"]),
    write: row("e", "write the step in your own words"),
    leaveOut: row("x", "leave the step out"),
    add: row("a", "add a step"),
    back: row("b", "back to Valley’s words"),
    prompter: row("f", "prompter"),
    hear: row("h", "hear the step"),
    step: row("q", "desk: the step"),
    findings: row("w", "desk: what is wrong"),
    proof: row("y", "desk: the proof-reader"),
    schools: row("v", "desk: how it is taught"),
    log: row("u", "desk: the log"),
  },
  /** On stage nothing else acts: no key there changes the song. */
  prompter: {
    next: row([" ", "arrowright", "pagedown"], "next", ["Space"]),
    back: row(["arrowleft", "pageup"], "back", ["←"]),
    stepAfter: row("arrowdown", "step after", ["↓"]),
    stepBefore: row("arrowup", "step before", ["↑"]),
    hear: row("h", "hear it"),
    run: row("a", "run by itself"),
    faster: row("]", "run faster"),
    slower: row("[", "run slower"),
    larger: row(["+", "="], "larger", ["+"]),
    smaller: row("-", "smaller"),
    mirror: row("m", "mirrored, for a glass"),
    rehearse: row("r", "rehearse"),
    time: row("t", "take the time"),
    close: row("escape", "close", ["Esc"]),
  },
  handouts: {
    all: row("mod+s", "everything in one file, or what was chosen", ["Ctrl", "S"]),
  },
  shelf: {
    search: row("/", "find a song"),
    request: row("r", "write down a request"),
    open: row("enter", "open the song that was just taken in", ["Enter"]),
  },
  post: {
    fetch: row("g", "fetch what is new"),
    undo: row("mod+z", "take the last deed back", ["Ctrl", "Z"]),
  },
} as const satisfies Record<string, KeyGroup>;

export type GroupName = keyof typeof KEYS;
export type Deeds<G extends GroupName> = Partial<Record<keyof (typeof KEYS)[G], (event: KeyboardEvent) => void>>;

/** What a group's keys do on this page, as ``useShortcuts`` takes it. */
export function bound<G extends GroupName>(group: G, deeds: Deeds<G>): Record<string, (event: KeyboardEvent) => void> {
  const rows: KeyGroup = KEYS[group];
  const map: Record<string, (event: KeyboardEvent) => void> = {};
  for (const [name, deed] of Object.entries(deeds) as [string, (event: KeyboardEvent) => void][])
    for (const key of rows[name]?.keys ?? []) map[key] = deed;
  return map;
}

/** Caps and words of groups, as the list of a page shows them. */
export function listed(...groups: readonly GroupName[]): { caps: readonly string[]; what: string }[] {
  return groups.flatMap((group) =>
    Object.values<KeyRow>(KEYS[group])
      .filter((r) => r.what)
      .map((r) => ({ caps: r.caps ?? r.keys.map((k) => k.toUpperCase()), what: r.what })),
  );
}
