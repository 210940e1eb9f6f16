import { randomBytes } from "node:crypto";
import { gzipSync } from "node:zlib";
import { expect, it, vi } from "vitest";
import { firstScript, firstScriptBytes } from "./first-script.mjs";

const chunk = (bytes: number, more: object) => ({
  type: "chunk",
  code: randomBytes(bytes / 2).toString("hex"),
  ...more,
});

it("counts what is loaded at once, each file once, and nothing that is loaded later", () => {
  const bundle = {
    "main.js": chunk(1000, { isEntry: true, imports: ["a.js", "b.js"] }),
    "a.js": chunk(2000, { imports: ["b.js"] }),
    "b.js": chunk(4000, { imports: ["a.js"] }),
    "later.js": chunk(8000, { imports: ["main.js"] }),
  };
  const sizes = ["main.js", "a.js", "b.js"].map((file) => gzipSync(bundle[file as "a.js"].code).length);
  expect(firstScriptBytes(bundle)).toBe(sizes.reduce((sum, one) => sum + one));
});

it("stops a build whose first script is too large, and no other", () => {
  const error = vi.fn();
  const build = { ...firstScript(), error };
  build.generateBundle({}, { "main.js": chunk(200_000, { isEntry: true }) });
  expect(error).not.toHaveBeenCalled();
  build.generateBundle({}, { "main.js": chunk(600_000, { isEntry: true }) });
  expect(error).toHaveBeenCalledOnce();
});
