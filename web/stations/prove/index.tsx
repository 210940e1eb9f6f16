import type { WebStation } from "../station.ts";
import { ProveStation } from "./view.tsx";

export const station: WebStation = { id: "prove", View: ProveStation };
