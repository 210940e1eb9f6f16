import type { WebStation } from "../station.ts";
import { DecideStation } from "./view.tsx";

export const station: WebStation = { id: "decide", View: DecideStation };
