import { spawn, spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it, vi } from "vitest";
import { logText, MIDSIZE, simulate } from "#core/virtualcard/index.ts";
import { main } from "./main.ts";

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
    join(folder, "airless-after.csv"),
    logText(simulate({ seed: 4, build: MIDSIZE, steps, sensors: { room: null } })),
  );
  writeFileSync(
    join(folder, "timeless.csv"),
    `GPU temp [°C]\n${Array.from({ length: 50 }, (_, k) => 40 + (k % 3)).join("\n")}\n`,
  );
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const paths = (words: readonly string[]): string[] =>
  words.map((word) => (word.endsWith(".csv") ? join(folder, word) : word));

/** A command in a process of its own, as a shell runs it. */
const spawned = (...words: string[]) => {
  const { stdout, stderr, status } = spawnSync(process.execPath, ["bin/algidus", ...paths(words)], {
    encoding: "utf8",
  });
  return { stdout, stderr, status };
};

/** The same command in this process, which starts none: what it writes and how it would exit. */
const run = async (...words: string[]) => {
  const said = { stdout: "", stderr: "" };
  const spies = (["stdout", "stderr"] as const).map((stream) =>
    vi.spyOn(process[stream], "write").mockImplementation((text) => {
      said[stream] += String(text);
      return true;
    }),
  );
  try {
    await main(paths(words));
    return { ...said, status: Number(process.exitCode ?? 0) };
  } finally {
    for (const spy of spies) spy.mockRestore();
    process.exitCode = undefined;
    // Each run listens for a closed pipe.
    process.stdout.removeAllListeners("error");
  }
};

describe("algidus analyse", () => {
  it("prints one JSON document with the named fields and nothing else", async () => {
    const { stdout, status } = spawned("analyse", "before.csv", "--json");
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

  it("takes typed room air over a column, with its uncertainty", async () => {
    const found = JSON.parse(
      (await run("analyse", "airless.csv", "--ambient", "21,5", "--ambient-u", "0.4", "--json")).stdout,
    );
    expect(found.ambient).toEqual({ valueC: 21.5, u95K: 0.4, source: "option" });
  });

  it("prints a table for people", async () => {
    const { stdout } = await run("analyse", "airless.csv");
    expect(stdout).toContain("can't be compared");
    expect(stdout).toMatch(/edge\s+\d+\.\d/);
  });
});

describe("algidus compare", () => {
  it("compares logs of two dialects", async () => {
    const found = JSON.parse((await run("compare", "before.csv", "after.csv", "--json")).stdout);
    expect(found).toMatchObject({ comparable: true, verdict: "better", hotspotGap: { verdict: "smaller" } });
    expect(found.atEqualConditions.roles.edge).toMatchObject({ verdict: "cooler" });
    expect(found.differences.map((one: { what: string }) => one.what)).toEqual(
      expect.arrayContaining(["fan", "power", "ambient", "load", "duration", "clocks", "sampling"]),
    );
  });

  it("exits 0 without room air and says that it can't be compared", async () => {
    const { stdout, status } = await run("compare", "airless.csv", "after.csv", "--json");
    expect(status).toBe(0);
    expect(JSON.parse(stdout)).toMatchObject({ comparable: false, verdict: "not-comparable", atEqualConditions: null });
  });
});

describe("algidus compare, told of case and load", () => {
  it("can't compare another case without the air at the intake of both", async () => {
    const settings = ["--case-before", "open-bench", "--case-after", "panel-on"];
    const { stdout, status } = await run("compare", "before.csv", "after.csv", ...settings, "--json");
    expect(status).toBe(0);
    expect(JSON.parse(stdout)).toMatchObject({
      comparable: false,
      verdict: "not-comparable",
      atEqualConditions: null,
      worst: null,
      best: null,
      differences: expect.arrayContaining([
        { what: "case", before: "open-bench", after: "panel-on", handled: "not-correctable" },
      ]),
    });
    const inlets = ["--inlet-before", "22", "--inlet-after", "22,5"];
    const measured = await run("compare", "airless.csv", "after.csv", ...settings, ...inlets, "--json");
    expect(JSON.parse(measured.stdout)).toMatchObject({ comparable: true, atEqualConditions: { ambientC: 22 } });
  });

  it("refuses a case that is none, an intake as warm as the card and a name without end, each with what to give", async () => {
    for (const [option, value, says] of [
      ["--case-before", "drawer", "open-bench, panel-off, panel-on"],
      ["--inlet-before", "119", "as warm as the card"],
      ["--inlet-after", "400", "from -40 to 120"],
      ["--load-name-after", "x".repeat(301), "at most 300"],
    ] as const) {
      const { status, stderr, stdout } = await run("compare", "before.csv", "after.csv", option, value, "--json");
      expect([status, stdout]).toEqual([2, ""]);
      expect(stderr).toContain(says);
    }
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
  ])("%o exits 2 with one line that says what to do", async (words, message) => {
    const { stdout, stderr, status } = await run(...(words as string[]));
    expect(status).toBe(2);
    expect(stdout).toBe("");
    expect(stderr.trim().split("\n")).toHaveLength(1);
    expect(stderr).toMatch(message as RegExp);
    expect(stderr).not.toMatch(/\bat .*:\d+:\d+/);
  });
});

describe("roles on the command line", () => {
  it("obeys --map, several times, and --interval", async () => {
    const mapped = JSON.parse(
      (await run("analyse", "before.csv", "--map", "edge=VRM [°C]", "--map", "vrm=GPU temperature [°C]", "--json"))
        .stdout,
    );
    expect(
      mapped.columns
        .filter((one: { role: string }) => ["edge", "vrm"].includes(one.role))
        .map((one: { header: string; role: string }) => [one.header, one.role]),
    ).toEqual([
      ["GPU temperature [°C]", "vrm"],
      ["VRM [°C]", "edge"],
    ]);
    expect(JSON.parse((await run("analyse", "timeless.csv", "--interval", "2", "--json")).stdout)).toMatchObject({
      intervalS: 2,
      durationS: 98,
    });
  });

  it("sets each side's room air and the shop's own scatter", async () => {
    const wide = JSON.parse(
      (
        await run(
          "compare",
          "airless.csv",
          "airless-after.csv",
          "--ambient-before",
          "20",
          "--ambient-after",
          "30",
          "--json",
        )
      ).stdout,
    );
    expect(wide.roles.edge.changeK).toBeGreaterThan(-11);
    expect(wide.roles.edge.changeK).toBeLessThan(-9);
    const narrow = JSON.parse(
      (await run("compare", "before.csv", "after.csv", "--scatter-mount", "0", "--scatter-run", "0", "--json")).stdout,
    );
    expect(narrow.roles.edge.u95K).toBeLessThan(1.5);
  });
});

it("asks which of two cards, and takes the one that is named", async () => {
  const rows = Array.from({ length: 200 }, (_, s) => `${s},${40 + (s % 3)},200,${60 + (s % 3)},250`);
  const header = "Time [s],GPU 1 Temperature [°C],GPU 1 Power [W],GPU 2 Temperature [°C],GPU 2 Power [W]";
  writeFileSync(join(folder, "two.csv"), [header, ...rows].join("\n"));
  const asked = await run("analyse", "two.csv", "--json");
  expect([asked.status, asked.stdout]).toEqual([2, ""]);
  expect(asked.stderr).toMatch(/two\.csv.*“GPU 1” at 200 W.*“GPU 2” at 250 W.*--card/);
  const found = JSON.parse((await run("analyse", "two.csv", "--card", "2", "--json")).stdout);
  expect(found.cards.map((card: { chosen: boolean }) => card.chosen)).toEqual([false, true]);
  expect(found.roles.power.mean).toBeCloseTo(250, 5);
  for (const bad of ["0", "1.5", "3", "two"]) expect((await run("analyse", "two.csv", "--card", bad)).status).toBe(2);
});

describe("serve, backup and restore", () => {
  const environment = () => ({ ...process.env, ALGIDUS_DB: join(folder, "shop.db"), ALGIDUS_PORT: "0" });
  const keep = (...words: string[]) =>
    spawnSync(process.execPath, ["bin/algidus", ...words], { encoding: "utf8", env: environment() });

  it("prints one line with the address, answers there, and its copy can be put back", async () => {
    const child = spawn(process.execPath, ["bin/algidus", "serve"], {
      env: environment(),
      stdio: ["ignore", "pipe", "inherit"],
    });
    const out = await new Promise<string>((resolve) =>
      child.stdout.once("data", (data: Buffer) => resolve(data.toString())),
    );
    expect(out.trim().split("\n")).toHaveLength(1);
    const address = /http:\/\/127\.0\.0\.1:\d+\//.exec(out)?.[0] ?? "";
    expect(await (await fetch(`${address}api/health`)).json()).toEqual({ ok: true });
    const copy = join(folder, "copy.db");
    expect(keep("backup", copy).status).toBe(0);
    expect(keep("backup", copy).stderr).toMatch(/exists already/);
    const gone = new Promise((resolve) => child.once("exit", resolve));
    child.kill();
    await gone;
    const restored = keep("restore", copy);
    expect(restored.status).toBe(0);
    expect(restored.stdout).toMatch(/the old one is kept as/);
  });

  it("says in words what keeps it from starting", () => {
    const start = (more: Record<string, string>) =>
      spawnSync(process.execPath, ["bin/algidus", "serve"], { encoding: "utf8", env: { ...environment(), ...more } });
    expect(start({ ALGIDUS_PORT: "many" }).stderr).toMatch(/ALGIDUS_PORT.*0 to 65535/);
    expect(start({ ALGIDUS_HOST: "0.0.0.0" }).stderr).toMatch(/passphrase/);
    writeFileSync(join(folder, "text.db"), "this is a text and no database, whatever its name may say about it");
    expect(start({ ALGIDUS_DB: join(folder, "text.db") }).stderr).toMatch(/not a database/);
    expect(keep("restore", join(folder, "nowhere.db")).stderr).toMatch(/no such backup/);
  });
});

describe("algidus diagnose", () => {
  it("prints ranked causes that sum to one, with evidence and a next check", async () => {
    const { stdout, status } = await run("diagnose", "before.csv", "--healthy", "after.csv", "--json");
    expect(status).toBe(0);
    const { findings } = JSON.parse(stdout);
    expect(findings[0]).toMatchObject({ cause: "dry-paste" });
    expect(findings[0].evidence[0]).toMatch(/K\/W/);
    expect(findings[0].nextCheck.length).toBeGreaterThan(20);
    expect(findings.reduce((sum: number, one: { probability: number }) => sum + one.probability, 0)).toBeCloseTo(1, 4);
  });

  it("refuses a healthy run that is not there, naming it", async () => {
    const { stdout, stderr, status } = spawned("diagnose", "before.csv", "--healthy", "none.csv");
    expect([status, stdout]).toEqual([2, ""]);
    expect(stderr).toMatch(/none\.csv/);
  });
});

describe("algidus contact and cut", () => {
  const write = (name: string, document: unknown): string => {
    const path = join(folder, name);
    writeFileSync(path, JSON.stringify(document));
    return path;
  };
  const pad = { material: "soft", thicknessMm: 1, layers: 1, widthMm: 14, heightMm: 12 };
  const stack = {
    board: { widthMm: 240, heightMm: 100, thicknessMm: 1.6, youngGPa: 22, poisson: 0.15 },
    die: { xMm: 120, yMm: 52, widthMm: 20, heightMm: 22 },
    screws: [
      [95, 25],
      [145, 25],
      [95, 79],
      [145, 79],
    ].map(([xMm, yMm], index) => ({ id: `s${index}`, xMm, yMm, forceN: 25, springNPerMm: 12 })),
    components: [{ id: "m1", kind: "memory", xMm: 85, yMm: 60, widthMm: 14, heightMm: 12, gapMm: 1.3, pad }],
    materials: {
      soft: {
        conductivityWPerMK: 6,
        curve: [
          [0, 0],
          [0.1, 35],
          [0.3, 150],
          [0.5, 480],
        ],
      },
    },
  };

  it("print the named fields, and a choice where it is asked for", async () => {
    const [part] = stack.components;
    const thin = { ...stack, components: [{ ...part, pad: { ...part?.pad, thicknessMm: 0.75 } }] };
    const path = write("stack.json", thin);
    const { stdout, status } = await run("contact", path, "--choose", "1,1.5,2", "--json");
    expect(status).toBe(0);
    const found = JSON.parse(stdout);
    expect(found.die).toMatchObject({ seated: true });
    expect(found.pads).toEqual([
      { id: "m1", contact: false, compressionPct: 0, pressureKPa: 0, forceN: 0, thicknessMm: 0.75 },
    ]);
    expect(found.warnings.map((one: { code: string }) => one.code)).toContain("pad-no-contact");
    expect(found.choice).toEqual([{ id: "m1", thicknessMm: 1.5, touchProbability: 1, seatProbability: 1 }]);
  });

  it("plan the turns of screws, and refuse fewer moves than screws and a screw without travel", async () => {
    const path = write("fasten.json", stack);
    const found = JSON.parse((await run("fasten", path, "--moves", "4", "--json")).stdout);
    expect(Object.keys(found)).toEqual(["final", "tighten", "loosen", "peakCornerKPa", "peakRatio", "schools"]);
    expect(found.tighten).toHaveLength(4);
    // 25 N by 12 N/mm at 0.45 mm a turn.
    for (const turn of found.tighten) expect(turn.totalTurns).toBeCloseTo(25 / 12 / 0.45, 4);
    expect(Object.keys(found.tighten[0])).toEqual([
      "screwId",
      "turns",
      "totalTurns",
      "dieForceN",
      "offCentre",
      "cornerKPa",
    ]);
    expect(found.schools.map((one: { name: string; moves: number }) => [one.name, one.moves])).toEqual([
      ["around-1", 4],
      ["cross-1", 4],
      ["cross-2", 8],
      ["cross-3", 12],
    ]);
    const few = await run("fasten", path, "--moves", "3");
    expect([few.status, few.stdout]).toEqual([2, ""]);
    expect(few.stderr).toMatch(/fasten\.json, --moves.*3 moves are fewer than the 4 screws/);
    const slack = { ...stack, screws: stack.screws.map((one, k) => (k === 2 ? { ...one, forceN: 0 } : one)) };
    expect((await run("fasten", write("slack.json", slack))).stderr).toMatch(
      /slack\.json, screws\[2\].*s2 has no travel/,
    );
  });

  it("press compound and dry parts: the named fields, an outline that closes, one line for what is wrong", async () => {
    const task = {
      die: { widthMm: 20, heightMm: 22 },
      beads: [{ x1Mm: 10, y1Mm: 11, x2Mm: 10, y2Mm: 11, volumeUl: 10 }],
      filmUm: 0,
      bondLineUm: null,
      pressureKPa: 250,
      yieldPa: 25,
      densityGPerMl: 2.5,
    };
    const found = JSON.parse((await run("spread", write("spread.json", task), "--json")).stdout);
    expect(Object.keys(found)).toEqual([
      "bondLineUm",
      "doseUl",
      "doseMg",
      "coveragePct",
      "uncoveredMm2",
      "squeezedOutUl",
      "enclosedAirMm2",
      "leastDoseUl",
      "outline",
    ]);
    expect(found).toMatchObject({ bondLineUm: expect.closeTo(28.4, 1), doseMg: 25 });
    const [ring] = found.outline;
    expect(ring[0]).toEqual(ring.at(-1));
    expect(
      (await run("spread", write("off.json", { ...task, beads: [{ ...task.beads[0], x1Mm: 21 }] }))).stderr,
    ).toMatch(/off\.json, beads\[0\].*does not lie on the die/);
    const room = { airC: 23, relativeHumidityPct: 50, crevices: [{ id: "hole", depthMm: 3 }] };
    expect((await run("dry", write("dry.json", room))).stdout).toMatch(/Dry after \d+ min/);
  });

  it("plans a shop and ends with what can't be planned named by field and remedy", async () => {
    const step = { id: "soak", durationMin: 30, needs: ["bench"] };
    const shop = {
      resources: [{ id: "bench", capacity: 1 }],
      jobs: [
        { id: "a", dueMin: null, weight: 1, steps: [step, { id: "close", durationMin: 5, needs: [] }] },
        { id: "b", dueMin: 25, weight: 2, steps: [step] },
      ],
    };
    const { stdout, status } = await run("schedule", write("shop.json", shop), "--seconds", "0.2", "--json");
    expect(status).toBe(0);
    expect(JSON.parse(stdout)).toEqual({
      makespanMin: 65,
      lowerBoundMin: 60,
      totalLatenessMin: 5,
      steps: [
        { job: "a", step: "soak", startMin: 30, endMin: 60 },
        { job: "a", step: "close", startMin: 60, endMin: 65 },
        { job: "b", step: "soak", startMin: 0, endMin: 30 },
      ],
    });
    const ring = { ...shop, jobs: [{ id: "a", steps: [{ ...step, after: ["soak"] }] }] };
    const wrong = await run("schedule", write("ring.json", ring), "--json");
    expect([wrong.status, wrong.stdout]).toEqual([2, ""]);
    expect(wrong.stderr).toMatch(/ring\.json, jobs\[0\]\.steps: .*wait for each other/);
    expect(wrong.stderr.trim().split("\n")).toHaveLength(1);
  });

  it("plan sheets and refuse what can't be cut, naming file and field", async () => {
    const piece = { id: "m", widthMm: 14, heightMm: 12, quantity: 8, thicknessMm: 1, material: "soft" };
    const sheet = {
      id: "s",
      widthMm: 100,
      heightMm: 100,
      quantity: null,
      price: 9.5,
      thicknessMm: 1,
      material: "soft",
    };
    const plan = JSON.parse(
      (await run("cut", write("cuts.json", { pieces: [piece], stock: [sheet] }), "--json")).stdout,
    );
    expect(plan).toMatchObject({ cost: 9.5, lowerBoundCost: 9.5, unplaced: [] });
    expect(plan.sheets[0].placements).toHaveLength(8);
    const wrong = await run(
      "cut",
      write("wrong.json", { pieces: [{ ...piece, widthMm: -1 }], stock: [sheet] }),
      "--json",
    );
    expect([wrong.status, wrong.stdout]).toEqual([2, ""]);
    expect(wrong.stderr).toMatch(/wrong\.json.*pieces\[0\]\.widthMm/);
  });
});

describe("algidus findings and age", () => {
  it("compares groups with the named fields, whatever the dialect, and names the column that can’t be used", async () => {
    writeFileSync(
      join(folder, "results.csv"),
      "changeK;u95K;paste;age\n-5,5;2;grey;2\n-6;1,5;grey;3\n-4;2;sheet;1\n-8;1;sheet;4\n-7;2;sheet;?\nx;2;grey;3\n",
    );
    const { stdout, status } = await run("findings", "results.csv", "--by", "paste", "--json");
    expect(status).toBe(0);
    const found = JSON.parse(stdout);
    expect(found).toMatchObject({ k: 5, leftOut: 1, clusterTau2: null });
    expect(Object.keys(found)).toEqual(
      expect.arrayContaining(["k", "tau2", "clusterTau2", "i2Pct", "q", "coefficients", "groups", "contrasts"]),
    );
    expect(found.coefficients.map((one: { name: string }) => one.name)).toEqual(["intercept", "paste=grey"]);
    expect(found.groups.map((one: { level: string; k: number }) => [one.level, one.k])).toEqual([
      ["sheet", 3],
      ["grey", 2],
    ]);
    expect((await run("findings", "results.csv", "--by", "paste", "--by", "age")).stdout).toMatch(
      /4 results, 2 left out/,
    );
    for (const [words, wrong] of [
      [["--by", "glue"], /results\.csv: There is no column “glue”/],
      [["--by", "u95K", "--by", "paste", "--by", "age"], /“age”/],
      [["--cluster", "paste", "extra.csv"], /reads one file/],
    ] as const) {
      const refused = await run("findings", "results.csv", ...words);
      expect([refused.status, refused.stdout]).toEqual([2, ""]);
      expect(refused.stderr).toMatch(wrong);
      expect(refused.stderr.trim().split("\n")).toHaveLength(1);
    }
  });

  it("counts cycles of several logs, and takes the only temperature of a list", async () => {
    writeFileSync(
      join(folder, "list.csv"),
      `Time [s];Card temperature [°C]\n${[30, 70, 50, 80, 30].map((value, k) => `${600 * k};${value}`).join("\n")}\n`,
    );
    const { stdout, status } = await run("age", "list.csv", "--json");
    expect(status).toBe(0);
    expect(JSON.parse(stdout)).toMatchObject({
      cycles: [
        { rangeK: 20, meanC: 60, count: 1 },
        { rangeK: 50, meanC: 55, count: 1 },
      ],
      equivalentCycles: 0.25 + 1.5625,
      referenceRangeK: 40,
      exponent: 2,
    });
    const two = JSON.parse((await run("age", "list.csv", "before.csv", "--json", "--reference", "50")).stdout);
    expect(two.hours).toBeCloseTo((2400 + 1240) / 3600, 3);
    expect(two.referenceRangeK).toBe(50);
    expect((await run("age", "before.csv")).stdout).toMatch(/Worth \d+\.\d+ cycles of 40 K/);
    const refused = await run("age", "list.csv", "--role", "vrm");
    expect([refused.status, refused.stderr]).toEqual([2, expect.stringMatching(/list\.csv.*no vrm temperature/)]);
  });
});
