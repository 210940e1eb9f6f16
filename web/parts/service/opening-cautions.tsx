import type { ServiceView } from "#contract";
import { Caution } from "../../ui/caution.tsx";

/** What may hurt before a card is opened, and whether it may be opened at all. */
export function OpeningCautions({ service }: { service: ServiceView }) {
  const baseline = service.stations.find((station) => station.id === "baseline");
  return (
    <>
      {baseline && (baseline.state === "next" || baseline.state === "open") && <Caution of="noBaseline" />}
      <Caution of="open" />
    </>
  );
}
