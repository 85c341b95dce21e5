export { CorrectionError } from "./CorrectionError";
export { chordNotes, handNotes, tuneNotes } from "./chordNotes";
export { LOUDNESS_RATE, usePlayer, useWorkspace, type Workspace } from "./context";
export { FoundHere, isAbout } from "./FoundHere";
export { Desks, Margin, MarginHeading, Page } from "./layout";
export { MeanThis } from "./MeanThis";
export { SongWorkspace } from "./SongWorkspace";
export { useCorrections } from "./useCorrections";
export { useFollow } from "./useFollow";
