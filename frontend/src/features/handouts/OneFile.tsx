import { useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { Button, bound, Field, KeyCap, Tick, useShortcuts } from "../../ui";
import { Files } from "./HandoutsView.styles";

interface Props {
  songId: number;
  files: readonly Schemas["HandoutOut"][];
}

/** Everything in one file, or what is ticked. It comes as it is made, so nothing waits for the last file. */
export function OneFile({ songId, files }: Props) {
  const [choosing, setChoosing] = useState(false);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const chosen = files.filter((f) => !left.has(f.name));
  const all = chosen.length === files.length;
  const query = all ? "" : `?only=${chosen.map((f) => f.name).join(",")}`;
  const tick = (name: string, wanted: boolean) => {
    const next = new Set(left);
    if (wanted) next.delete(name);
    else next.add(name);
    setLeft(next);
  };
  const link = useRef<HTMLAnchorElement>(null);
  useShortcuts(bound("handouts", { all: () => link.current?.click() }));
  return (
    <>
      {chosen.length > 0 ? (
        <>
          <KeyCap>Ctrl</KeyCap> <KeyCap>S</KeyCap>{" "}
          <a ref={link} href={`/api/songs/${songId}/handouts/all.zip${query}`} download>
            {all ? "everything in one file" : `${chosen.length} of ${files.length} in one file`}
          </a>
        </>
      ) : (
        <span>nothing is chosen</span>
      )}{" "}
      <Button $quiet aria-expanded={choosing} onPress={() => setChoosing(!choosing)}>
        {choosing ? "that is all" : "choose what goes in"}
      </Button>
      {choosing && (
        <fieldset style={{ border: 0, margin: 0, padding: 0 }}>
          <legend>
            In the one file:{" "}
            <Button $quiet onPress={() => setLeft(all ? new Set(files.map((f) => f.name)) : new Set())}>
              {all ? "none" : "all"}
            </Button>
          </legend>
          <Files>
            {files.map((f) => (
              <li key={f.name}>
                <Field>
                  <Tick checked={!left.has(f.name)} onChange={(wanted) => tick(f.name, wanted)}>
                    {f.title}
                  </Tick>
                </Field>
              </li>
            ))}
          </Files>
        </fieldset>
      )}
    </>
  );
}
