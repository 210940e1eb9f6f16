import type { CoolerView } from "#contract";
import { type BoardMap, DIE_ID } from "#core/boardmap/index.ts";
import { type Cooler, planOfCooler, withPlan } from "#core/coolers/index.ts";
import { api } from "../../app/api.ts";
import { documentKind } from "../../app/document.ts";
import { type PlanEditor, usePlanEditor } from "../../parts/board/use-plan-editor.ts";
import type { PlanKeysEditor } from "../../parts/board/use-plan-keys.ts";

const COOLER = documentKind<Cooler, CoolerView>({
  name: "cooler",
  afterMs: 400,
  read: "cooler",
  of: ({ version, cooler }) => ({ version, value: cooler }),
  send: (coolerId, { value, version, changes }, dispatch) =>
    dispatch(
      api.endpoints.changeCooler.initiate({ coolerId, body: { cooler: value, version, changes } }, { track: false }),
    ),
});

export type CoolerEditor = PlanEditor<Cooler>;

export const useCoolerEditor = ({ id, version, cooler }: CoolerView): CoolerEditor =>
  usePlanEditor(COOLER, { id, version, stored: cooler });

/** The same editor as the board map’s keys and hands see it. */
export function planSide(editor: CoolerEditor): PlanKeysEditor {
  const { map: cooler, change } = editor;
  return {
    map: planOfCooler(cooler),
    picked: editor.picked,
    pick: editor.pick,
    undo: editor.undo,
    redo: editor.redo,
    change: (plan: BoardMap, what, more) => change(keepPlate(withPlan(cooler, plan), cooler, plan), what, more),
  };
}

/** Removing the plate’s rectangle on the plan removes the plate. */
const keepPlate = (next: Cooler, cooler: Cooler, plan: BoardMap): Cooler =>
  plan.die === null ? { ...next, plate: null } : { ...next, plate: next.plate ?? cooler.plate };

export const PLATE_ID = DIE_ID;
