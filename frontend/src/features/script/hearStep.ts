import type { Schemas } from "../../api/client";
import { type Grid, type Player, secondsAt } from "../../player";

/** Sound what a step teaches, with the hands and at the speed it asks for; with a grip from there on. Again: stop. */
export function hearStep(player: Player, grid: Grid, step: Schemas["StepOut"], grip?: Schemas["GripOut"]): void {
  if (player.getState().playing) {
    player.pause();
    return;
  }
  if (step.start_beats === null || step.end_beats === null) return;
  const { source, hands, rate } = player.getState();
  player.setSource("piano");
  player.setHands(step.hands === "left" || step.hands === "right" ? step.hands : "both");
  player.setRate(Math.min(1, Math.max(0.3, step.speed)));
  const from = secondsAt(grid, grip?.start_beats ?? step.start_beats);
  void player.playSpan(from, secondsAt(grid, step.end_beats)).then(() => {
    // When it has sounded, or was stopped, the player is as it was before.
    const quiet = player.subscribe(() => {
      if (player.getState().playing) return;
      quiet();
      player.setSource(source);
      player.setHands(hands);
      player.setRate(rate);
    });
  });
}
