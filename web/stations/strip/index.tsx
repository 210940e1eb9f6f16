import type { WebStation } from "../station.ts";
import { StripStation } from "./view.tsx";

export const station: WebStation = { id: "strip", View: StripStation };
