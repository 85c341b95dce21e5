import { useState } from "react";
import type { Schemas } from "../../api/client";
import { type Edit, useSongEdits } from "../../api/edits";
import { useArrangement } from "../../api/hands";
import { useWorkspace } from "../song";
import type { Grip, Note } from "./banks";

export type GripEdit = Partial<Schemas["ChangeGrip"]> & Pick<Schemas["ChangeGrip"], "action">;
export type Where = "here" | "chord" | "repeats";

export interface HeldNote extends Note {
  hand: "left" | "right";
}

/** Notes of a grip from the lowest to the highest, each with its hand. */
export const notesOf = (grip: Grip | undefined): HeldNote[] =>
  grip
    ? [
        ...grip.left.map((n) => ({ ...n, hand: "left" as const })),
        ...grip.right.map((n) => ({ ...n, hand: "right" as const })),
      ]
    : [];

/** Everything that the view of the hands shares: the arrangement, the grip and note in hand, and how to change them. */
export function useHands() {
  const { song, part } = useWorkspace();
  const arrangement = useArrangement(song.id);
  const { edit } = useSongEdits(song.id, "hands");
  const [index, setIndex] = useState(0);
  const [noteIndex, setNoteIndex] = useState(0);
  const [where, setWhere] = useState<Where>("here");
  const arranged = arrangement.data?.parts.find((p) => p.part === part.number);
  const grip = arranged?.grips[index];
  const notes = notesOf(grip);
  const note = notes[Math.min(noteIndex, notes.length - 1)];
  const change = (wanted: Edit) => edit.mutate({ edit: wanted });
  return {
    arrangement: arrangement.data,
    error: arrangement.error,
    arranged,
    index,
    setIndex,
    grip,
    notes,
    note,
    chooseNote: (by: number) =>
      notes.length && setNoteIndex((Math.min(noteIndex, notes.length - 1) + by + notes.length) % notes.length),
    pickNote: (midi: number) => {
      const at = notes.findIndex((n) => n.midi === midi);
      if (at >= 0) setNoteIndex(at);
    },
    where,
    setWhere,
    change,
    changeGrip: (edit: GripEdit) =>
      grip && change({ everywhere: where, ...edit, kind: "change_grip", start: grip.start }),
    changeNote: (action: GripEdit["action"], by = 0) =>
      grip &&
      note &&
      change({
        kind: "change_grip",
        start: grip.start,
        everywhere: where,
        action,
        hand: note.hand,
        midi: note.midi,
        by,
      }),
    changing: edit.isPending,
    changeError: edit.error,
  };
}

export type Hands = ReturnType<typeof useHands>;
