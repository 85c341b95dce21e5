import { Button, ErrorNotice } from "../../ui";
import type { useCorrections } from "./useCorrections";

/** What went wrong with the last correction, and the way on. */
export function CorrectionError({ corrections }: { corrections: ReturnType<typeof useCorrections> }) {
  if (!corrections.error) return null;
  return (
    <ErrorNotice error={corrections.error}>
      {corrections.conflict && <Button onPress={corrections.again}>Make my change here too</Button>}
    </ErrorNotice>
  );
}
