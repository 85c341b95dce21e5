import { useSyncExternalStore } from "react";

/**
 * The first walk through a song: asked for on the shelf or in the list of keys, led by whoever draws it. Kept in the browser, so that it goes on after a
 * reload, and is offered once only.
 */
export interface WalkState {
  /** Offered on the shelf: until it was taken or put aside. */
  fresh: boolean;
  /** The stop at which it stands, from 0; -1 where nobody walks. */
  stop: number;
  /** The song; 0 until one is found. */
  song: number;
}

const PLACE = "valley-walk";
const HOME: WalkState = { fresh: true, stop: -1, song: 0 };
const listeners = new Set<() => void>();
let state = read();

function read(): WalkState {
  try {
    return { ...HOME, ...(JSON.parse(localStorage.getItem(PLACE) ?? "{}") as Partial<WalkState>) };
  } catch {
    return HOME;
  }
}

export function setWalk(change: Partial<WalkState>): void {
  state = { ...state, ...change };
  localStorage.setItem(PLACE, JSON.stringify(state));
  for (const listener of listeners) listener();
}

export const startWalk = (): void => setWalk({ fresh: false, stop: 0, song: 0 });
export const leaveWalk = (): void => setWalk({ fresh: false, stop: -1, song: 0 });

export function useWalk(): WalkState {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => state,
  );
}
