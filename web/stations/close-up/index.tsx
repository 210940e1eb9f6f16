import type { WebStation } from "../station.ts";
import { CloseUpStation } from "./view.tsx";

export const station: WebStation = { id: "closeUp", View: CloseUpStation };
