import { type ServiceView, STATIONS, type StationId } from "#contract";
import { LinkButton } from "../../ui/button.tsx";

/** To the station whose turn it is, where that lies ahead; else to the one that follows in the order of work. */
export function NextLink({ cardId, service, from }: { cardId: string; service: ServiceView; from: StationId }) {
  const here = STATIONS.findIndex(({ id }) => id === from);
  const turn = service.stations.findIndex(({ state }) => state === "next");
  const target = STATIONS[turn > here ? turn : here + 1];
  if (!target) return null;
  return (
    <div className="flex justify-end">
      <LinkButton to={`/cards/${cardId}/${target.path}`} look="main">
        Next: {target.title.toLowerCase()}
      </LinkButton>
    </div>
  );
}
