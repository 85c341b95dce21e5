import { useState } from "react";
import { useChoices } from "../../api/hands";
import { Button, Choice, Field, Line, leaveField, named, plain, Tick } from "../../ui";
import { MarginHeading, useWorkspace } from "../song";
import type { Hands } from "./useHands";

const HANDS: Record<string, string> = {
  small: "small (an octave)",
  medium: "medium (a ninth)",
  large: "large (a tenth)",
};

const BASSES = { slash: "follows slash chords", root: "keeps the root" } as const;

export interface Comparison {
  style: string;
  level: string;
}

interface VoicingDeskProps {
  hands: Hands;
  comparison: Comparison | null;
  onCompare: (comparison: Comparison | null) => void;
}

/** Whose hands, which keyboard, what the camera sees; a part's own voicing; another voicing to compare. */
export function VoicingDesk({ hands, comparison, onCompare }: VoicingDeskProps) {
  const { part } = useWorkspace();
  const choices = useChoices();
  const { arrangement, arranged, change } = hands;
  if (!choices.data || !arrangement || !arranged) return null;
  const { settings } = arrangement;
  const styles = choices.data.styles.map((s) => ({ value: s.name, words: s.title, hint: s.summary }));
  const own = !choices.data.hands.includes(settings.hand);
  return (
    <>
      <div>
        <MarginHeading as="p">The player</MarginHeading>
        <h2>Hands and keys</h2>
      </div>
      <section>
        <Field>
          <Choice
            label="hand"
            value={own ? "own" : settings.hand}
            options={[
              ...choices.data.hands.map((value) => ({ value, words: HANDS[value] ?? value })),
              { value: "own", words: "measured" },
            ]}
            onChange={(hand) => hand !== "own" && change({ kind: "set_hands", hand })}
          />
        </Field>
        <Typed
          label="measured, in mm"
          value={own ? settings.hand : ""}
          hint="thumb to each finger: 120,150,168,178"
          onSave={(hand) => change({ kind: "set_hands", hand: hand || "medium" })}
        />
        <Field>
          <Choice
            label="keyboard"
            value={settings.keyboard}
            options={[
              ...choices.data.keyboards.map((value) => ({ value, words: `${value} keys` })),
              ...(choices.data.keyboards.includes(settings.keyboard) ? [] : plain([settings.keyboard])),
            ]}
            onChange={(keyboard) => change({ kind: "set_hands", keyboard })}
          />
        </Field>
        <Typed
          label="camera shows"
          value={settings.frame}
          hint="all, or C2-C6"
          onSave={(frame) => change({ kind: "set_hands", frame })}
        />
        <Field>
          <Choice
            label="bass"
            value={settings.bass as keyof typeof BASSES}
            options={named(BASSES)}
            onChange={(bass) => change({ kind: "set_hands", bass })}
          />
        </Field>
        <TuneOctave value={settings.tune} onChange={(tune) => change({ kind: "set_hands", tune })} />
        <Field>
          <Tick checked={settings.fingers} onChange={(on) => change({ kind: "set_hands", fingers: on })}>
            show fingers
          </Tick>
        </Field>
      </section>
      <section>
        <MarginHeading>Part {part.number} by itself</MarginHeading>
        <Field>
          <Choice
            label="voicing"
            value={arranged.own_style ? arranged.style : ""}
            options={[{ value: "", words: "as the song" }, ...styles]}
            onChange={(style) => change({ kind: "set_hands", part: part.number, style: style || settings.style })}
          />
        </Field>
        <Field>
          <Choice
            label="level"
            value={arranged.level}
            options={plain(choices.data.levels)}
            onChange={(level) => change({ kind: "set_hands", part: part.number, level })}
          />
        </Field>
        <TuneOctave
          value={arranged.tune ?? settings.tune}
          onChange={(tune) => change({ kind: "set_hands", part: part.number, tune })}
        />
      </section>
      <section>
        <MarginHeading>Beside another voicing</MarginHeading>
        <Field>
          <Choice
            label="compare with"
            value={comparison?.style ?? ""}
            options={[{ value: "", words: "nothing" }, ...styles]}
            onChange={(style) => onCompare(style ? { style, level: comparison?.level ?? settings.level } : null)}
          />
        </Field>
        {comparison && (
          <>
            <Field>
              <Choice
                label="its level"
                value={comparison.level}
                options={plain(choices.data.levels)}
                onChange={(level) => onCompare({ ...comparison, level })}
              />
            </Field>
            <Button
              onPress={() => {
                change({ kind: "set_hands", part: part.number, style: comparison.style, level: comparison.level });
                onCompare(null);
              }}
            >
              Take it for part {part.number}
            </Button>
          </>
        )}
      </section>
    </>
  );
}

type Tune = "auto" | "-2" | "-1" | "0" | "1" | "2";
const TUNES: Record<Tune, string> = {
  auto: "where a hand plays it",
  "0": "where the chart has it",
  "1": "an octave higher",
  "-1": "an octave lower",
  "2": "two octaves higher",
  "-2": "two octaves lower",
};

/** In which octave the tune sounds. */
function TuneOctave({ value, onChange }: { value: string; onChange: (tune: Tune) => void }) {
  return (
    <Field>
      <Choice label="tune" value={value as Tune} options={named(TUNES)} onChange={onChange} />
    </Field>
  );
}

interface TypedProps {
  label: string;
  value: string;
  hint: string;
  onSave: (value: string) => void;
}

/** A field that saves when it is left. */
function Typed({ label, value, hint, onSave }: TypedProps) {
  const [draft, setDraft] = useState<string | null>(null);
  return (
    <Field>
      <Line
        label={label}
        size={11}
        value={draft ?? value}
        placeholder={hint}
        title={hint}
        onChange={setDraft}
        onBlur={() => {
          if (draft !== null && draft.trim() !== value) onSave(draft.trim());
          setDraft(null);
        }}
        onEnter={leaveField}
      />
    </Field>
  );
}
