import { type ReactNode, useState } from "react";
import { Dialog, DialogTrigger, Heading, Modal, ModalOverlay } from "react-aria-components";
import styled from "styled-components";
import { Button } from "./Button";
import { Deeds } from "./deeds";
import { Tick } from "./fields";
import { KeyCap } from "./KeyCap";
import { bound, type GroupName, listed } from "./keymap";
import { lettersAct, setLettersAct, useShortcuts } from "./useShortcuts";
import { startWalk } from "./walk";

const Veil = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  background: var(--shadow);
  display: grid;
  place-items: center;
  z-index: 5;
`;
const Sheet = styled(Modal)`
  background: var(--ground);
  border: 1.5px solid var(--ink);
  border-radius: 6px;
  padding: 1.4rem 2rem;
  max-width: min(60rem, 94vw);
  .lists {
    columns: 2 24rem;
    column-gap: 2.5rem;
  }
  .lists section {
    break-inside: avoid-column;
  }
  [role="dialog"] {
    outline: none;
  }
  h3 {
    font-size: 1.1rem;
  }
  max-height: 96vh;
  overflow: auto;
  dl {
    display: grid;
    grid-template-columns: 7.5rem 1fr;
    gap: 0.3rem 1rem;
    margin: 0.3rem 0 1rem;
    align-items: baseline;
    align-content: start;
  }
  dt {
    display: flex;
    gap: 0.3rem;
  }
  dd {
    margin: 0;
  }
  h2 {
    font-size: 1.5rem;
  }
`;

/** Groups of keys under a heading; the first is what this page adds to all others. */
export type KeyList = readonly (readonly [string, readonly GroupName[]])[];

/** The keys that act on a page, on its button or on "?", and the switch for single ones. */
export function KeysDialog({ keys, children }: { keys: KeyList; children?: ReactNode }) {
  const [open, setOpen] = useState(false);
  const [letters, setLetters] = useState(lettersAct);
  useShortcuts(bound("help", { list: () => setOpen(true) }));
  return (
    <DialogTrigger isOpen={open} onOpenChange={setOpen}>
      <Button $quiet>
        <KeyCap>?</KeyCap> all keys
      </Button>
      <Veil isDismissable>
        <Sheet>
          <Dialog>
            {({ close }) => (
              <>
                <Heading slot="title" level={2}>
                  Keys
                </Heading>
                <div className="lists">
                  {keys.map(([heading, groups]) => (
                    <section key={heading}>
                      <h3>{heading}</h3>
                      <dl>
                        {listed(...groups).map(({ caps, what }) => (
                          <div key={`${caps.join("")}${what}`} style={{ display: "contents" }}>
                            <dt>
                              {caps.map((cap) =>
                                cap === "…" ? <span key={cap}>…</span> : <KeyCap key={cap}>{cap}</KeyCap>,
                              )}
                            </dt>
                            <dd>{what}</dd>
                          </div>
                        ))}
                      </dl>
                    </section>
                  ))}
                </div>
                <p style={{ margin: "0.4rem 0 1rem" }}>
                  <Tick
                    checked={letters}
                    onChange={(on) => {
                      setLettersAct(on);
                      setLetters(on);
                    }}
                  >
                    single keys act (without them: Space, arrows, and keys with Ctrl or Alt)
                  </Tick>
                </p>
                {children}
                <Deeds>
                  <Button onPress={close}>Close</Button>
                  <Button
                    $quiet
                    onPress={() => {
                      close();
                      startWalk();
                    }}
                  >
                    take the first walk through a song, two minutes
                  </Button>
                </Deeds>
              </>
            )}
          </Dialog>
        </Sheet>
      </Veil>
    </DialogTrigger>
  );
}
