import type { ReactNode } from "react";
import type { ServiceView, StationId } from "#contract";

export interface StationProps {
  cardId: string;
  service: ServiceView;
}

/** What a station's folder on the page gives: the rest follows from the table in `contract/stations.ts`. */
export interface WebStation {
  id: StationId;
  View: (props: StationProps) => ReactNode;
}
