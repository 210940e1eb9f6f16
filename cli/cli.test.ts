import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { logText, MIDSIZE, simulate } from "#core/virtualcard/index.ts";

let folder: string;
const steps = [
  { durationS: 40, load: 0 },
  { durationS: 1200, load: 1 },
];
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), "algidus-cli-"));
  writeFileSync(
    join(folder, "before.csv"),
    logText(simulate({ seed: 1, build: MIDSIZE, faults: { dryPaste: 0.5 }, steps })),
  );
  writeFileSync(
    join(folder, "after.csv"),
    logText(simulate({ seed: 2, build: MIDSIZE, steps }), {
      delimiter: ";",
      decimal: ",",
      headers: "german",
      time: "clock",
      startS: 86_000,
    }),
  );
  writeFileSync(
    join(folder, "airless.csv"),
    logText(simulate({ seed: 3, build: MIDSIZE, steps, sensors: { room: null } })),
  );
  writeFileSync(
    join(folder, "timeless.csv"),
    `GPU temp [°C]\n${Array.from({ length: 50 }, (_, k) => 40 + (k % 3)).join("\n")}\n`,
  );
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const run = (...words: string[]) => {
  const { stdout, stderr, status } = spawnSync(
    process.execPath,
    ["bin/algidus", ...words.map((word) => (word.endsWith(".csv") ? join(folder, word) : word))],
    { encoding: "utf8" },
  );
  return { stdout, stderr, status };
};

describe("algidus analyse", () => {
  it("prints one JSON document with the named fields and nothing else", () => {
    const { stdout, status } = run("analyse", "before.csv", "--json");
    expect(status).toBe(0);
    const found = JSON.parse(stdout);
    expect(found).toMatchObject({
      samples: 1241,
      durationS: 1240,
      intervalS: 1,
      ambient: { source: "column", u95K: 0.6 },
      steady: { reached: true },
      throttling: { detected: false, shareOfLoad: 0, kinds: [] },
    });
    expect(Object.keys(found.roles.edge)).toEqual(
      expect.arrayContaining(["meanC", "u95K", "maxC", "riseK", "riseU95K", "thetaKPerW", "finalC", "finalU95K"]),
    );
    expect(found.roles.fanRpm).toMatchObject({ mean: expect.any(Number), u95: expect.any(Number) });
    expect(found.columns[0]).toMatchObject({ header: "Time [s]", role: "time", sure: true });
  });

  it("takes typed room air over a column, with its uncertainty", () => {
    const found = JSON.parse(run("analyse", "airless.csv", "--ambient", "21,5", "--ambient-u", "0.4", "--json").stdout);
    expect(found.ambient).toEqual({ valueC: 21.5, u95K: 0.4, source: "option" });
  });

  it("prints a table for people", () => {
    const { stdout } = run("analyse", "airless.csv");
    expect(stdout).toContain("can't be compared");
    expect(stdout).toMatch(/edge\s+\d+\.\d/);
  });
});

describe("algidus compare", () => {
  it("compares logs of two dialects", () => {
    const found = JSON.parse(run("compare", "before.csv", "after.csv", "--json").stdout);
    expect(found).toMatchObject({ comparable: true, verdict: "better", hotspotGap: { verdict: "smaller" } });
    expect(found.atEqualConditions.roles.edge).toMatchObject({ verdict: "cooler" });
    expect(found.differences.map((one: { what: string }) => one.what)).toEqual(
      expect.arrayContaining(["fan", "power", "ambient", "load", "duration", "clocks", "sampling"]),
    );
  });

  it("exits 0 without room air and says that it can't be compared", () => {
    const { stdout, status } = run("compare", "airless.csv", "after.csv", "--json");
    expect(status).toBe(0);
    expect(JSON.parse(stdout)).toMatchObject({ comparable: false, verdict: "not-comparable", atEqualConditions: null });
  });
});

describe("bad usage", () => {
  it.each([
    [["analyse", "nowhere.csv"], /no such file/],
    [["analyse", "timeless.csv"], /timeless\.csv.*--interval/],
    [["analyse", "before.csv", "--ambient", "warm"], /--ambient/],
    [["analyse", "before.csv", "--map", "nose=GPU"], /role/],
    [["analyse", "before.csv", "--map", "edge=Nowhere"], /before\.csv.*Nowhere/],
    [["analyse", "before.csv", "--loud"], /--loud/],
    [["analyse"], /Use: algidus analyse/],
    [["compare", "before.csv"], /two log files/],
    [["dance"], /no command/],
    [["backup"], /backup FILE/],
  ])("%o exits 2 with one line that says what to do", (words, message) => {
    const { stdout, stderr, status } = run(...(words as string[]));
    expect(status).toBe(2);
    expect(stdout).toBe("");
    expect(stderr.trim().split("\n")).toHaveLength(1);
    expect(stderr).toMatch(message as RegExp);
    expect(stderr).not.toMatch(/\bat .*:\d+:\d+/);
  });
});
