import type { WebStation } from "../station.ts";
import { CleanStation } from "./view.tsx";

export const station: WebStation = { id: "clean", View: CleanStation };
