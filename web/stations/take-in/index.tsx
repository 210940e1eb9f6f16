import type { WebStation } from "../station.ts";
import { TakeInStation } from "./view.tsx";

export const station: WebStation = { id: "takeIn", View: TakeInStation };
