import { act, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, expect, it, vi } from "vitest";
import { keyboards } from "../../devices/midi";
import { choose } from "../../ui/fields/choose";
import { ARRANGEMENT, EDITED, fakeServer, showInWorkspace } from "../song/testing";
import { PassDesk } from "./PassDesk";
import { useHands } from "./useHands";

beforeEach(() => {
  Element.prototype.scrollIntoView = vi.fn();
});

function Desk() {
  return <PassDesk hands={useHands()} />;
}

it("records what is played while the song runs, and takes it for a hand", async () => {
  const calls = fakeServer({
    "GET /api/songs/5/arrangement": { body: ARRANGEMENT },
    "POST /api/songs/5/edits": { body: EDITED },
  });
  const { player } = showInWorkspace(<Desk />);
  let time = 0;
  player.now = () => time;
  player.play = vi.fn(async () => undefined);
  const user = userEvent.setup();
  await user.click(screen.getByRole("button", { name: /Record from part 1/ }));
  expect(player.play).toHaveBeenCalled();
  act(() => {
    keyboards.press(48);
    time = 0.5;
    keyboards.release(48);
    keyboards.press(64);
    time = 1;
    keyboards.release(64);
  });
  expect(screen.getByText("Playing along: 2 keys so far.")).toBeInTheDocument();
  await user.click(screen.getByRole("button", { name: "Stop recording" }));
  expect(screen.getByText(/2 keys in bars 1 to 1/)).toBeInTheDocument();
  await choose("take", "the left hand");
  await user.click(screen.getByRole("button", { name: "Take it" }));
  await waitFor(() => {
    const edit = calls.find((c) => c.what === "POST /api/songs/5/edits")?.body as { edit: Record<string, unknown> };
    expect(edit.edit).toMatchObject({ kind: "take_pass", start: "0", hands: "left", feel: "auto", strength: 1 });
    expect(edit.edit.keys).toHaveLength(2);
  });
  expect(screen.queryByRole("button", { name: "Take it" })).not.toBeInTheDocument();
});
