import { type ReactNode, useState } from "react";
import { Dialog, DialogTrigger, Heading, Modal, ModalOverlay } from "react-aria-components";
import styled from "styled-components";
import { Button } from "./Button";
import { KeyCap } from "./KeyCap";
import { useShortcuts } from "./useShortcuts";

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
  max-width: 34rem;
  max-height: 96vh;
  overflow: auto;
  dl {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 0.4rem 1rem;
    margin: 1rem 0;
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

/** Keys of a page with what they do; "…" between two keys stands for those between them. */
export type KeyList = readonly (readonly [readonly string[], string])[];

/** All keys of a page, on its button or on "?". */
export function KeysDialog({ keys, children }: { keys: KeyList; children?: ReactNode }) {
  const [open, setOpen] = useState(false);
  useShortcuts({ "?": () => setOpen(true) });
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
                <dl>
                  {keys.map(([caps, what]) => (
                    <div key={what} style={{ display: "contents" }}>
                      <dt>
                        {caps.map((cap) => (cap === "…" ? <span key={cap}>…</span> : <KeyCap key={cap}>{cap}</KeyCap>))}
                      </dt>
                      <dd>{what}</dd>
                    </div>
                  ))}
                </dl>
                {children}
                <Button onPress={close}>Close</Button>
              </>
            )}
          </Dialog>
        </Sheet>
      </Veil>
    </DialogTrigger>
  );
}
