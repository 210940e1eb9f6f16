import type { WebStation } from "../station.ts";
import { WorkStation } from "./view.tsx";

export const station: WebStation = { id: "work", View: WorkStation };
