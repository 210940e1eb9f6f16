import { Link } from "react-router";
import { type FindingsAsked, type FindingsView, type Material, STOCK_UNIT } from "#contract";
import { COMPOUND_KINDS, type DieCompound, gainOf, type Layer, layerAt, refusedWhy } from "#core/compound/index.ts";
import type { CompoundPlan } from "#core/handwork/index.ts";
import { api } from "../../app/api.ts";
import { Button } from "../../ui/button.tsx";
import { figure } from "../../ui/format.ts";
import { Sheet } from "../../ui/page.tsx";
import { Term } from "../../ui/term.tsx";
import { Working } from "../../ui/working.tsx";
import { type Compound, startPlan } from "./use-compound.ts";

const ON_DIE = Object.keys(COMPOUND_KINDS) as DieCompound[];
const isOnDie = (kind: string): kind is DieCompound => ON_DIE.some((one) => one === kind);
/** Of the board's power the die takes about so much (common practice, no source). */
const DIE_SHARE = 0.75;
const USUAL_POWER_W = 150;

/** What each compound brought here, at equal conditions. */
const BY_COMPOUND: FindingsAsked = { by: "compound", adjust: [], only: {}, measure: "die", paper: true };

interface Row {
  id: string;
  material: Material | null;
  kind: Material["kind"];
  name: string;
  layer: Layer | null;
  refused: string;
}

/** Every compound in the stores, and kinds that could be bought, with what each would bring on this die. */
export function Choose({
  compound,
  plate,
}: {
  compound: Compound;
  plate: "copper" | "nickel" | "aluminium" | "unknown";
}) {
  const { stores, die, facts, plan, keep } = compound;
  const { data: settings } = api.useSettingsQuery();
  const { data: seen } = api.useFindingsQuery(BY_COMPOUND);
  if (!die || !stores || !facts) return null;
  const powerW = (facts.powerW ?? USUAL_POWER_W) * DIE_SHARE;
  const input = { areaMm2: die.widthMm * die.heightMm, powerW, fast: facts.fast };
  const rows = rowsOf(stores.materials, plate, compound.pressureKPa);
  const pick = (row: Row): void => {
    if (!isOnDie(row.kind) || !row.layer) return;
    const { material } = row;
    keep(
      startPlan(
        { id: material?.id ?? null, name: row.name, kind: row.kind, densityGPerMl: material?.densityGPerMl ?? null },
        die,
        row.layer.bondLineUm,
      ),
    );
  };
  return (
    <Sheet title="Choose">
      <p className="mb-3 text-soft">
        {facts.fast
          ? `By the jump within seconds of a load step in “${facts.run}”, at ${figure(powerW, 0)} W through the die.`
          : `No baseline shows a load step: what is on now is guessed, so “cooler than now” is wide. At ${figure(powerW, 0)} W through the die.`}{" "}
        <Term of="width">±</Term>
      </p>
      <ul className="divide-y divide-line">
        {rows.map((row) => (
          <CompoundRow
            key={row.id}
            row={row}
            seen={seen?.groups.find(({ level }) => level === row.name)}
            isChosen={chosen(plan, row)}
            input={input}
            left={leftOf(stores, row.material)}
            cost={costOf(stores, row, die, settings?.currency ?? "")}
            onPick={() => pick(row)}
          />
        ))}
      </ul>
      <Working>
        <p>
          A layer’s resistance is bond line / conductivity + joints, over the die’s area. What the layer on the die
          costs now: the edge’s jump within seconds, less silicon (0.75 mm) and the spreading in the plate
          (8/(3π^1.5)/(k√A), of which about half shows so soon). Each has its uncertainty; “than good paste” does not
          need the old layer and is narrower. Conductivities and joints of kinds are common practice.
        </p>
      </Working>
    </Sheet>
  );
}

const chosen = (plan: CompoundPlan | null, row: Row): boolean =>
  plan !== null &&
  (row.material ? plan.materialId === row.material.id : plan.materialId === null && plan.name === row.name);

/** Material for one die, by what its lot cost; empty where nobody said. */
function costOf(
  { lots }: NonNullable<Compound["stores"]>,
  { material, layer }: Row,
  die: { widthMm: number; heightMm: number },
  currency: string,
): string {
  const price = lots.find(({ materialId, price: one }) => materialId === material?.id && one > 0)?.price;
  if (!price || !material || !layer) return "";
  const each =
    STOCK_UNIT[material.kind] === "g"
      ? die.widthMm * die.heightMm * layer.bondLineUm * 1e-6 * DOSE_TIMES * (material.densityGPerMl ?? USUAL_DENSITY)
      : 1;
  return `${figure(Math.max(0.01, price * each), 2)} ${currency}`;
}
/** What is put on, over what stays. */
const DOSE_TIMES = 1.35;
const USUAL_DENSITY = 2.5;

const leftOf = (stores: NonNullable<Compound["stores"]>, material: Material | null): string => {
  if (!material) return "not in the stores";
  const amount = stores.lots
    .filter(({ materialId }) => materialId === material.id)
    .reduce((sum, lot) => sum + lot.amount, 0);
  return amount > 0 ? `${figure(amount, 1)} ${STOCK_UNIT[material.kind]} left` : "none left";
};

function rowsOf(materials: readonly Material[], plate: Parameters<typeof refusedWhy>[1], pressureKPa: number): Row[] {
  const usualOf = (kind: DieCompound): Layer => layerAt(kind, pressureKPa);
  const own = materials.flatMap((material): Row[] => {
    const { kind, conductivityWPerMK } = material;
    if (kind === "adhesive")
      return [{ id: material.id, material, kind, name: material.name, layer: null, refused: refusedWhy(kind, plate) }];
    if (!isOnDie(kind)) return [];
    const usual = usualOf(kind);
    const layer = conductivityWPerMK === null ? null : { ...usual, conductivityWPerMK };
    return [
      {
        id: material.id,
        material,
        kind,
        name: material.name,
        layer,
        refused: layer
          ? refusedWhy(kind, plate)
          : "Its conductivity is not known: add it in the stores, then it can be weighed up.",
      },
    ];
  });
  const bought = ON_DIE.filter((kind) => !own.some((row) => row.kind === kind && row.layer)).map(
    (kind): Row => ({
      id: kind,
      material: null,
      kind,
      name: `Good ${kind}`,
      layer: usualOf(kind),
      refused: refusedWhy(kind, plate),
    }),
  );
  return [...own, ...bought];
}

function CompoundRow({
  row,
  seen,
  isChosen,
  input,
  left,
  cost,
  onPick,
}: {
  row: Row;
  /** What it brought over all services that were proved here. */
  seen: FindingsView["groups"][number] | undefined;
  isChosen: boolean;
  input: Parameters<typeof gainOf>[1];
  left: string;
  cost: string;
  onPick: () => void;
}) {
  const usual = isOnDie(row.kind) ? COMPOUND_KINDS[row.kind] : null;
  const gain = row.layer && gainOf(row.layer, input);
  return (
    <li
      className={`flex flex-wrap items-start justify-between gap-3 py-3 ${isChosen ? "-mx-2 rounded-lg bg-frost px-2" : ""}`}
    >
      <div className="min-w-0 flex-1 basis-64">
        <p className="font-semibold break-words">
          {isChosen ? "✓ " : ""}
          {row.name} <span className="font-normal text-soft">{left}</span>
        </p>
        {row.refused ? (
          <p className="text-danger">{row.refused}</p>
        ) : (
          usual &&
          gain && (
            <>
              <p>
                <strong>
                  {figure(gain.gainK, 1)} ± {figure(gain.u95K, 1)} K
                </strong>{" "}
                cooler than now
                {Math.abs(gain.overPasteK) > 0.15 &&
                  `; ${figure(Math.abs(gain.overPasteK), 1)} ± ${figure(gain.overPasteU95K, 1)} K ${gain.overPasteK > 0 ? "more" : "less"} than good paste`}
              </p>
              {seen && (
                <p>
                  Here so far: {figure(Math.abs(seen.meanK))} ± {figure(seen.u95K)} K{" "}
                  {seen.meanK < 0 ? "cooler" : "warmer"} over{" "}
                  <Link to="/findings" className="text-ice underline">
                    {seen.k === 1 ? "1 service" : `${seen.k} services`}
                  </Link>
                </p>
              )}
              <p className="text-sm text-soft">
                {cost && `${cost} · `}
                {usual.minutes} min · {usual.years[0]} to {usual.years[1]} years ·{" "}
                {usual.conducts ? <strong className="text-amber">conducts electricity</strong> : "does not conduct"} ·{" "}
                {usual.keepInMind}
              </p>
            </>
          )
        )}
      </div>
      {!row.refused && (
        <Button look={isChosen ? "plain" : "main"} onClick={onPick} aria-label={`Take ${row.name}`}>
          {isChosen ? "Taken" : "Take it"}
        </Button>
      )}
    </li>
  );
}
