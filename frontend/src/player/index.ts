export { beatsAt, secondsAt } from "./grid";
export { type PianoNote, Player, type PlayerState, type Source } from "./Player";
