import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";

/** Runs the examples in the doc blocks of core: each last line is `expression // => value`. */
const files = readdirSync("core", { recursive: true, encoding: "utf8" }).filter(
  (name) => name.endsWith(".ts") && !name.includes(".test."),
);
const examples = files.flatMap((file) =>
  [...readFileSync(join("core", file), "utf8").matchAll(/```ts\n([\s\S]*?)```/g)].map((found) => ({
    file,
    code: (found[1] ?? "").replace(/^\s*\* ?/gm, ""),
  })),
);

describe("examples in doc blocks", () => {
  it("are there", () => {
    expect(examples.length).toBeGreaterThanOrEqual(30);
  });
  it.each(examples)("$file", async ({ file, code }) => {
    const module = (await import(join(process.cwd(), "core", file))) as Record<string, unknown>;
    const lines = code.trim().split("\n");
    const [expression = "", expected = ""] = (lines.pop() ?? "").split("// =>");
    const run = new Function(
      ...Object.keys(module),
      `${lines.join("\n")}\nreturn [${expression.replace(/;\s*$/, "")}, ${expected}];`,
    );
    const [actual, wanted] = run(...Object.values(module)) as [unknown, unknown];
    expect(actual).toEqual(wanted);
  });
});
