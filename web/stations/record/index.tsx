import type { WebStation } from "../station.ts";
import { RecordStation } from "./view.tsx";

export const station: WebStation = { id: "record", View: RecordStation };
