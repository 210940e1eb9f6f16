import * as v from "valibot";
import { CoolerFile } from "#contract";
import { Problem } from "#core";
import { COOLER_FORMAT, type Cooler, coolerFromMap } from "#core/coolers/index.ts";
import { fromSvg } from "../../parts/board/read-svg.ts";

const unreadable = (what: string, remedy: string): Problem => new Problem({ code: "not-a-cooler", what, remedy });
const CHOOSE = "Choose a cooler saved as JSON or SVG.";

/**
 * A cooler from a file: JSON, a drawing saved here, or a drawing made elsewhere.
 * @throws Problem `not-a-cooler`, and as a drawing’s reader
 */
export function coolerFromFile(name: string, text: string): Cooler {
  if (!name.toLowerCase().endsWith(".svg")) return fromJson(text);
  const kept = new DOMParser().parseFromString(text, "image/svg+xml").querySelector("metadata#algidus-cooler");
  if (kept?.textContent) return fromJson(kept.textContent);
  return coolerFromMap(fromSvg(text), name.replace(/\.svg$/i, "").slice(0, 60) || "Cooler");
}

function fromJson(text: string): Cooler {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw unreadable("This is not JSON.", CHOOSE);
  }
  const found = v.safeParse(CoolerFile, value);
  if (found.success) return found.output;
  if ((value as { format?: unknown } | null)?.format !== COOLER_FORMAT)
    throw unreadable("This is not a cooler.", CHOOSE);
  const [issue] = found.issues;
  const path = v.getDotPath(issue);
  throw unreadable(path ? `${path}: ${issue.message}` : issue.message, "Correct the file and import it again.");
}
