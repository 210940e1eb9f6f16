import { expect, it } from "vitest";
import { withoutSchemas, withPureConstants } from "./lean-page.mjs";

it("leaves of a line of the API what a page calls it by", () => {
  const line = `const told = { answers: Card, fills: "card" };
export const cards = {
  photo: get("/photos/:photoId", "A photo", { answers: media("image/jpeg") }),
  list: get("/cards", "Cards", { queries: { find: v.string() }, answers: v.array(Card) }),
  add: add("/cards", "Take in", { takes: CardInput, form: { photo: v.blob() }, stale: [...LINES], ...told }),
};`;
  expect(withoutSchemas(line)).toBe(`const told = { answers: null, fills: "card" };
export const cards = {
  photo: get("/photos/:photoId", "", { answers: media("image/jpeg") }),
  list: get("/cards", "", { queries: { find: true }, answers: null }),
  add: add("/cards", "", { takes: true, form: true, stale: [...LINES], ...told }),
};`);
});

it("lets constants go that a call makes, and changes nothing else", () => {
  const code = `export const A = v.object({ a: v.string() });
const n = 3;
export const f = (x: number) => g(x);
let later = g(1);`;
  expect(withPureConstants(code)).toBe(
    code.replace("v.object({ a: v.string() })", "/* @__PURE__ */ (() => (v.object({ a: v.string() })))()"),
  );
});
