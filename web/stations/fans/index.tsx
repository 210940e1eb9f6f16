import type { WebStation } from "../station.ts";
import { FansStation } from "./view.tsx";

export const station: WebStation = { id: "fans", View: FansStation };
