import { CAUTIONS, type CautionId } from "#contract";
import { Note } from "./note.tsx";

/** What may hurt here, before the step; the words stand in `contract/cautions.ts`. */
export function Caution({ of }: { of: CautionId }) {
  const { title, says } = CAUTIONS[of];
  return (
    <Note kind="caution" title={title}>
      {says.join(" ")}
    </Note>
  );
}
