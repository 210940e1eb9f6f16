import type { WebStation } from "../station.ts";
import { CompoundStation } from "./view.tsx";

export const station: WebStation = { id: "compound", View: CompoundStation };
