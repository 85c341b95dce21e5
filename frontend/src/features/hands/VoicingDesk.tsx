import { useState } from "react";
import { useChoices } from "../../api/hands";
import { Button, Field } from "../../ui";
import { MarginHeading, useWorkspace } from "../song";
import type { Hands } from "./useHands";

const HANDS: Record<string, string> = {
  small: "small (an octave)",
  medium: "medium (a ninth)",
  large: "large (a tenth)",
};

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
  const own = !choices.data.hands.includes(settings.hand);
  return (
    <>
      <div>
        <MarginHeading as="p">The player</MarginHeading>
        <h2>Hands and keys</h2>
      </div>
      <section>
        <Field>
          hand
          <select
            value={own ? "own" : settings.hand}
            onChange={(e) => e.target.value !== "own" && change({ kind: "set_hands", hand: e.target.value })}
          >
            {choices.data.hands.map((h) => (
              <option key={h} value={h}>
                {HANDS[h] ?? h}
              </option>
            ))}
            <option value="own">measured</option>
          </select>
        </Field>
        <Typed
          label="measured, in mm"
          value={own ? settings.hand : ""}
          hint="thumb to each finger: 120,150,168,178"
          onSave={(hand) => change({ kind: "set_hands", hand: hand || "medium" })}
        />
        <Field>
          keyboard
          <select value={settings.keyboard} onChange={(e) => change({ kind: "set_hands", keyboard: e.target.value })}>
            {choices.data.keyboards.map((k) => (
              <option key={k} value={k}>
                {k} keys
              </option>
            ))}
            {!choices.data.keyboards.includes(settings.keyboard) && <option>{settings.keyboard}</option>}
          </select>
        </Field>
        <Typed
          label="camera shows"
          value={settings.frame}
          hint="all, or C2-C6"
          onSave={(frame) => change({ kind: "set_hands", frame })}
        />
        <Field>
          bass
          <select
            value={settings.bass}
            onChange={(e) => change({ kind: "set_hands", bass: e.target.value as "slash" | "root" })}
          >
            <option value="slash">follows slash chords</option>
            <option value="root">keeps the root</option>
          </select>
        </Field>
        <TuneOctave value={settings.tune} onChange={(tune) => change({ kind: "set_hands", tune })} />
        <Field>
          <input
            type="checkbox"
            checked={settings.fingers}
            onChange={(e) => change({ kind: "set_hands", fingers: e.target.checked })}
          />
          show fingers
        </Field>
      </section>
      <section>
        <MarginHeading>Part {part.number} by itself</MarginHeading>
        <Field>
          voicing
          <select
            value={arranged.own_style ? arranged.style : ""}
            onChange={(e) => change({ kind: "set_hands", part: part.number, style: e.target.value || settings.style })}
          >
            <option value="">as the song</option>
            {choices.data.styles.map((s) => (
              <option key={s.name} value={s.name}>
                {s.title}
              </option>
            ))}
          </select>
        </Field>
        <Field>
          level
          <select
            value={arranged.level}
            onChange={(e) => change({ kind: "set_hands", part: part.number, level: e.target.value })}
          >
            {choices.data.levels.map((l) => (
              <option key={l}>{l}</option>
            ))}
          </select>
        </Field>
        <TuneOctave
          value={arranged.tune ?? settings.tune}
          onChange={(tune) => change({ kind: "set_hands", part: part.number, tune })}
        />
      </section>
      <section>
        <MarginHeading>Beside another voicing</MarginHeading>
        <Field>
          compare with
          <select
            value={comparison?.style ?? ""}
            onChange={(e) =>
              onCompare(e.target.value ? { style: e.target.value, level: comparison?.level ?? settings.level } : null)
            }
          >
            <option value="">nothing</option>
            {choices.data.styles.map((s) => (
              <option key={s.name} value={s.name}>
                {s.title}
              </option>
            ))}
          </select>
        </Field>
        {comparison && (
          <>
            <Field>
              level
              <select value={comparison.level} onChange={(e) => onCompare({ ...comparison, level: e.target.value })}>
                {choices.data.levels.map((l) => (
                  <option key={l}>{l}</option>
                ))}
              </select>
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
      tune
      <select value={value} onChange={(e) => onChange(e.target.value as Tune)}>
        {Object.entries(TUNES).map(([name, said]) => (
          <option key={name} value={name}>
            {said}
          </option>
        ))}
      </select>
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
      {label}
      <input
        size={11}
        value={draft ?? value}
        placeholder={hint}
        title={hint}
        onChange={(e) => setDraft(e.target.value)}
        onBlur={() => {
          if (draft !== null && draft.trim() !== value) onSave(draft.trim());
          setDraft(null);
        }}
        onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
      />
    </Field>
  );
}
