export { LOUDNESS_RATE, usePlayer, useWorkspace, type Workspace } from "./context";
export { Desks, Margin, MarginHeading, Page } from "./layout";
export { SongWorkspace } from "./SongWorkspace";
