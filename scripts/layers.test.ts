import { describe, expect, it } from "vitest";
import { checkLayers } from "./layers.mjs";

const check = (...files: Array<[path: string, source: string]>): string[] => checkLayers(files);

describe("imports that the lint step refuses", () => {
  it.each([
    ["up, by alias", "core/gaps/infer.ts", 'import { x } from "#contract";'],
    ["up, by path, disguised", "core/gaps/infer.ts", 'import { x } from "../../web/../contract/index.ts";'],
    ["up, a type only", "server/db/open.ts", 'import type { Route } from "../http/route.ts";'],
    ["up, handed on", "web/ui/note.tsx", 'export { Bench } from "../features/overview/page.tsx";'],
    ["up, only when it is needed", "web/app/store.ts", 'const later = () => import("../shell/routes.tsx");'],
    ["from one place into another", "web/features/overview/page.tsx", 'import { x } from "../cards/page.tsx";'],
    ["from one station into another", "web/stations/pads/view.tsx", 'import { x } from "../work/view.tsx";'],
    ["from one station's rule into another", "core/stations/pads/index.ts", 'import { x } from "../work/index.ts";'],
    ["past a folder's index", "core/gaps/infer.ts", 'import { x } from "../contact/plate.ts";'],
    ["past it by alias", "web/workers/pad-session.ts", 'import type { X } from "#core/contact/plate.ts";'],
    ["of the page into the server", "server/services/cards.ts", 'import { x } from "#web/app/store.ts";'],
    ["of Node in the computation", "core/gaps/infer.ts", 'import { readFileSync } from "node:fs";'],
    ["of the database on the page", "web/app/api.ts", 'import { eq } from "drizzle-orm";'],
  ])("%s", (_, file, source) => {
    const faults = check([file, source]);
    expect(faults).toHaveLength(1);
    expect(faults[0]).toContain(file);
  });

  it("in a circle of folders, types included", () => {
    const faults = check(
      ["core/gaps/infer.ts", 'import type { Stack } from "../contact/index.ts";'],
      ["core/contact/stack.ts", 'import { gap } from "../gaps/index.ts";'],
    );
    expect(faults).toEqual(["circle: core/gaps → core/contact → core/gaps"]);
  });

  it("but not down, within a folder, or in a test", () => {
    expect(
      check(
        ["core/gaps/infer.ts", 'import { at } from "../numeric/index.ts"; import { read } from "./readings.ts";'],
        ["web/features/service/page.tsx", 'import { STATION_PAGES } from "../../stations/registry.ts";'],
        [
          "server/stations/pads/index.ts",
          'import { get } from "../../http/route.ts"; import { x } from "../station.ts";',
        ],
        ["core/gaps/gaps.test.ts", 'import { x } from "../contact/plate.ts";'],
      ),
    ).toEqual([]);
  });
});
