import type { WebStation } from "../station.ts";
import { PadsStation } from "./view.tsx";

export const station: WebStation = { id: "pads", View: PadsStation };
