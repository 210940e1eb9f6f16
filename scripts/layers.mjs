/**
 * Refuses imports that point up, sideways, past a folder's index, or in a circle of folders; types count like values, and what a path comes
 * to counts, not how it is spelled. Circles of files are the linter's (`import/no-cycle`).
 */

import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { posix } from "node:path";
import { fileURLToPath } from "node:url";
import { parseSync } from "oxc-parser";

const PAGE = /^(node:|express|drizzle-orm|@libsql)/;
const SERVER = /^react/;
const NEITHER = new RegExp(`${PAGE.source}|${SERVER.source}`);

/**
 * Bottom first. `unit`: the folder within which everything may be imported. `sees`: layers it may import from. `siblings`: whether its units
 * see each other. `index`: whether its units are entered by their index only. `bans`: packages that it must not know.
 */
export const LAYERS = [
  { name: "core", unit: /^(core\/(?!stations\/)[\w-]+)\//, sees: [], siblings: true, index: true, bans: NEITHER },
  { name: "core stations", unit: /^(core\/stations\/[\w-]+)\//, sees: ["core"], index: true, bans: NEITHER },
  { name: "core index", unit: /^(core\/index\.ts)$/, sees: ["core"], bans: NEITHER },
  {
    name: "contract",
    unit: /^(contract)\//,
    sees: ["core", "core stations", "core index"],
    index: true,
    bans: NEITHER,
  },

  ...chain(["core", "core stations", "core index", "contract"], SERVER, [
    { name: "server root", unit: /^(server\/(?:root|temp|child|threads)\.ts)$/, siblings: true },
    { name: "database", unit: /^(server\/db)\// },
    { name: "ingest", unit: /^(server\/ingest)\//, sees: ["core", "core index", "contract", "server root"] },
    { name: "services", unit: /^(server\/services)\// },
    { name: "http", unit: /^(server\/http)\// },
    { name: "test benches", unit: /^(server\/benches)\//, not: ["http"] },
    { name: "routes", unit: /^(server\/routes)\// },
    { name: "server station", unit: /^(server\/stations\/station\.ts)$/, not: ["test benches", "routes"] },
    { name: "server stations", unit: /^(server\/stations\/[\w-]+)\//, not: ["test benches", "routes"] },
    { name: "server registry", unit: /^(server\/stations\/registry\.ts)$/, not: ["test benches", "routes"] },
    { name: "server", unit: /^(server)\/[\w-]+\.ts$/ },
    { name: "demo", unit: /^(demo)\//, index: true },
    { name: "command line", unit: /^(cli)\// },
  ]),

  ...chain(["core", "core stations", "core index", "contract"], PAGE, [
    { name: "workers", unit: /^(web\/workers)\// },
    { name: "app", unit: /^(web\/app)\// },
    { name: "kit", unit: /^(web\/ui)\// },
    { name: "charts", unit: /^(web\/charts)\// },
    { name: "parts", unit: /^(web\/parts\/[\w-]+)\//, siblings: true },
    { name: "web station", unit: /^(web\/stations\/station\.ts)$/ },
    { name: "web stations", unit: /^(web\/stations\/[\w-]+)\// },
    { name: "web registry", unit: /^(web\/stations\/registry\.ts)$/ },
    { name: "places", unit: /^(web\/features\/[\w-]+)\//, not: ["web stations"] },
    { name: "shell", unit: /^(web\/shell)\// },
    { name: "page", unit: /^(web\/main\.tsx)$/ },
  ]),
];

/** Each of `rows` sees all that stand before it, but for those it names in `not`, or just those it names in `sees`. */
function chain(base, bans, rows) {
  return rows.map(({ not = [], ...row }, index) => ({
    bans,
    sees: [...base, ...rows.slice(0, index).map((one) => one.name)].filter((name) => !not.includes(name)),
    ...row,
  }));
}

const place = (path) => {
  for (const layer of LAYERS) {
    const unit = layer.unit.exec(path)?.[1];
    if (unit) return { layer, unit };
  }
  return undefined;
};

const ALIASES = [
  [/^#core$/, "core/index.ts"],
  [/^#contract$/, "contract/index.ts"],
  [/^#demo$/, "demo/index.ts"],
  [/^#(core|contract|server|cli|web)\/(.*)$/, "$1/$2"],
];

function targetOf(file, specifier) {
  if (specifier.startsWith(".")) return posix.normalize(posix.join(posix.dirname(file), specifier));
  for (const [pattern, path] of ALIASES)
    if (pattern.test(specifier)) return posix.normalize(specifier.replace(pattern, path));
  return undefined;
}

function importsOf(file, source) {
  const { module } = parseSync(file, source);
  const dynamic = module.dynamicImports.flatMap(({ moduleRequest: { start, end } }) => {
    const text = source.slice(start, end);
    return /^["'][^"']*["']$/.test(text) ? [text.slice(1, -1)] : [];
  });
  return [
    ...module.staticImports.map((one) => one.moduleRequest.value),
    ...module.staticExports.flatMap(({ entries }) => entries.flatMap((one) => one.moduleRequest?.value ?? [])),
    ...dynamic,
  ];
}

const isTest = (file) => /\.test\.tsx?$|\/tests\//.test(file);

/**
 * @param files paths from the root with their text
 * @returns what is wrong, a line each
 */
export function checkLayers(files) {
  const faults = [];
  const units = new Map();
  for (const [file, source] of files) {
    if (isTest(file)) continue;
    const from = place(file);
    if (!from) continue;
    for (const specifier of importsOf(file, source)) {
      const target = targetOf(file, specifier);
      if (target === undefined) {
        if (from.layer.bans.test(specifier)) faults.push(`${file}: ${from.layer.name} must not know ${specifier}`);
        continue;
      }
      const to = place(target);
      if (!to || to.unit === from.unit) continue;
      const sees = to.layer === from.layer ? from.layer.siblings === true : from.layer.sees.includes(to.layer.name);
      if (!sees) faults.push(`${file}: ${from.layer.name} must not import ${target} (${to.layer.name})`);
      else if (to.layer.index && target !== `${to.unit}/index.ts`)
        faults.push(`${file}: ${target} lies behind ${to.unit}/index.ts`);
      units.set(from.unit, (units.get(from.unit) ?? new Set()).add(to.unit));
    }
  }
  return [...faults, ...circlesOf(units)];
}

function circlesOf(units) {
  const circles = [];
  const done = new Set();
  const visit = (unit, path) => {
    if (path.includes(unit))
      return void circles.push(`circle: ${[...path.slice(path.indexOf(unit)), unit].join(" → ")}`);
    if (done.has(unit)) return;
    for (const next of units.get(unit) ?? []) visit(next, [...path, unit]);
    done.add(unit);
  };
  for (const unit of units.keys()) visit(unit, []);
  return circles;
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const folders = ["core", "contract", "server", "cli", "demo", "web"];
  const names = execFileSync("git", ["ls-files", "-co", "--exclude-standard", ...folders], { encoding: "utf8" });
  const files = names.split("\n").filter((name) => /\.tsx?$/.test(name) && !name.endsWith(".d.ts"));
  const found = [];
  for (const name of files) {
    try {
      found.push([name, readFileSync(name, "utf8")]);
    } catch {
      // Removed and not committed yet.
    }
  }
  const faults = checkLayers(found);
  for (const fault of faults) console.error(fault);
  console.log(`${found.length} files, ${faults.length} imports that point the wrong way`);
  process.exit(faults.length === 0 ? 0 : 1);
}
