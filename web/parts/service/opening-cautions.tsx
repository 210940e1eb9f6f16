import type { ServiceView } from "#contract";
import { Note } from "../../ui/note.tsx";

/** What may hurt before a card is opened, and whether it may be opened at all. */
export function OpeningCautions({ service }: { service: ServiceView }) {
  const baseline = service.stations.find((station) => station.id === "baseline");
  return (
    <>
      {baseline && (baseline.state === "next" || baseline.state === "open") && (
        <Note kind="caution" title="There is no baseline yet">
          Don’t open it: a later fault can’t be told from an old one. Run the baseline first, or skip it there with a
          reason; then work can be noted.
        </Note>
      )}
      <Note kind="caution" title="Before you open it">
        Unplug, wait, ground yourself. Fin edges and blades are sharp, a heatsink may be hot. Alcohol burns and its
        vapour is heavy: air the room, no flame, dry before power. Read the safety data sheets; owner’s consent first.
      </Note>
    </>
  );
}
