export { beatsAt, type Grid, secondsAt } from "./grid";
export { type PianoNote, Player, type PlayerState, type Source } from "./Player";
