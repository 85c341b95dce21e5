import { createContext, useContext, useSyncExternalStore } from "react";
import type { Schemas } from "../../api/client";
import type { Player, PlayerState } from "../../player";
import type { Stretch } from "./stretch";

/** What every view of a song shares: the song, its chart, its player, and what is selected. */
export interface Workspace {
  song: Schemas["SongOut"];
  chart: Schemas["ChartOut"];
  loudness: readonly number[];
  player: Player;
  /** Start of the selected chord, in exact beats as the server writes them. */
  selected: string;
  /** The place in hand, in beats: that of the selected chord, or any beat while it goes on. */
  place: string;
  select: (place: string) => void;
  part: Schemas["PartOut"];
  selectPart: (number: number) => void;
  /** Bars that are marked, to be repeated, copied or moved. */
  stretch: Stretch | null;
  /** Mark from the bar in hand; then up to it; then no more. */
  mark: () => void;
  /** Mark from the bar in hand, or where marking began, to a beat. */
  markTo: (beat: number) => void;
}

export const WorkspaceContext = createContext<Workspace | null>(null);

export function useWorkspace(): Workspace {
  const workspace = useContext(WorkspaceContext);
  if (!workspace) throw new Error("useWorkspace must be used inside SongWorkspace");
  return workspace;
}

/** A part of the player's state; the component draws again only when that part changes. */
export function usePlayer<T>(player: Player, pick: (state: PlayerState) => T): T {
  return useSyncExternalStore(player.subscribe, () => pick(player.getState()));
}

export const LOUDNESS_RATE = 20;
