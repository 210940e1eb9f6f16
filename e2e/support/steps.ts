import { expect, type Page } from "@playwright/test";
import { EMPTY_CARD } from "#contract/index.ts";
import type { BoardMap } from "#core/boardmap/index.ts";
import { type App, Bench } from "./app.ts";

export interface Made {
  id: string;
  serviceId: string;
  boardModelId: string;
}

/** A card without a baseline, for a reason, so that hands may begin. */
export async function takeInOpen(
  app: App,
  page: Page,
  serial: string,
  board: string,
  map: BoardMap | null,
): Promise<Made> {
  const bench = new Bench(page, app);
  await bench.open();
  const { request } = page;
  const card = { ...EMPTY_CARD, maker: "Ostrel", model: "Strip 7", serial, newBoardModel: board, holder: "stock" };
  const made = (await (await request.post(app.url("/api/cards"), { data: card })).json()) as Made;
  await request.put(app.url(`/api/services/${made.serviceId}/skip`), {
    data: { station: "baseline", reason: "dead on arrival" },
  });
  if (map) await request.put(app.url(`/api/boards/${made.boardModelId}/map`), { data: { map, version: 0 } });
  return made;
}

export const dialog = (page: Page) => page.getByRole("dialog");
export const heading = (page: Page) => dialog(page).getByRole("heading", { level: 2 });

/** Answers the step that is shown with keys alone, and waits for the next. */
export async function answer(page: Page, keys: ReadonlyArray<readonly [RegExp, string[]]>): Promise<string> {
  const words = (await heading(page).textContent()) ?? "";
  const own = keys.find(([pattern]) => pattern.test(words))?.[1] ?? [" "];
  for (const key of own) await page.keyboard.press(key);
  await expect(heading(page)).not.toHaveText(words);
  return words;
}
