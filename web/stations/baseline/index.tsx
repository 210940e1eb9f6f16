import type { WebStation } from "../station.ts";
import { BaselineStation } from "./view.tsx";

export const station: WebStation = { id: "baseline", View: BaselineStation };
