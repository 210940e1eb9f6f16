import { describe, expect, it } from "vitest";
import type { SheetMapping } from "#contract";
import { readTable } from "#core/tables/index.ts";
import { fatesOf, guessMapping } from "../features/findings/sheet-rows.ts";

const read = (text: string) => readTable(text, 100);
const fates = (text: string, more: Partial<SheetMapping> = {}) => {
  const table = read(text);
  return fatesOf(table, { ...guessMapping(table), ...more });
};

describe("columns are known by their names", () => {
  it.each([
    [
      "in English",
      "Card;Serial no;Date;What was done;Paste;Pads used;Temp before;Temp after;Ambient before;Ambient after;Fan;Age;Usage;Remarks",
      [
        "model",
        "serial",
        "doneOn",
        "work",
        "compound",
        "pads",
        "beforeC",
        "afterC",
        "roomBeforeC",
        "roomAfterC",
        "fan",
        "ageYears",
        "use",
        "note",
      ],
    ],
    [
      "in German",
      "Karte;Datum;Arbeit;Vorher;Nachher;Raum",
      ["model", "doneOn", "work", "beforeC", "afterC", "roomBeforeC"],
    ],
    ["few of them", "GPU,pre,post", ["model", "beforeC", "afterC"]],
  ])("%s", (_, header, fields) => {
    const delimiter = header.includes(";") ? ";" : ",";
    const names = header.split(delimiter);
    const guessed = guessMapping(read(`${header}\n${names.map(() => "1").join(delimiter)}\n`)).fields;
    expect(guessed).toEqual(Object.fromEntries(fields.map((field, at) => [field, names[at]])));
  });

  it("takes no column twice, and leaves strange ones alone", () => {
    const { fields } = guessMapping(read("Before,Before and after,Colour\n1,2,3\n"));
    expect(Object.values(fields)).toHaveLength(new Set(Object.values(fields)).size);
    expect(Object.values(fields)).not.toContain("Colour");
  });

  it("takes power, speeds and sound for no temperature, and kelvins over room air for rises", () => {
    const { fields } = guessMapping(
      read("Card;Power before (W);Fan before;Temp before;Temp after;Power after (W)\nA;220;1500;79;68;219\n"),
    );
    expect([fields.beforeC, fields.afterC]).toEqual(["Temp before", "Temp after"]);
    const risen = "Card;Work;Before, K over room;After, K over room\nA;paste;57;46\nB;paste;61,5;61\n";
    expect(guessMapping(read(risen))).toMatchObject({ rises: true, fahrenheit: false });
    expect(fates(risen).map(({ why }) => why)).toEqual(["", ""]);
    const [one, two] = fates(risen).map(({ paper }) => paper);
    expect([(one?.afterC ?? 0) - (one?.beforeC ?? 0), one?.roomBeforeC, one?.roomAfterC]).toEqual([-11, 22, 22]);
    expect((two?.afterC ?? 0) - (two?.beforeC ?? 0)).toBeCloseTo(-0.5, 9);
  });

  it("refuses a row whose change no service makes, naming the columns", () => {
    const [fate] = fates("Card,Before,After\nA,79,8\n");
    expect(fate).toMatchObject({ paper: null, why: expect.stringMatching(/“Before” and “After” differ by 71 K/) });
  });

  it("sees Fahrenheit in what stands there", () => {
    expect(guessMapping(read("Card,Before,After\nA,174,158\nB,170,150\n")).fahrenheit).toBe(true);
    expect(guessMapping(read("Card,Before,After\nA,79,68\n")).fahrenheit).toBe(false);
  });
});

describe("every row has its fate", () => {
  it("a good one becomes a result, in °C, with what was done in words of Findings", () => {
    const [fate] = fates(
      "Card,Work,Before,After,Room,Fan,Usage\nFjell 70,new paste and pads,174.2,158,71.6,same,gaming\n",
    );
    expect(fate).toMatchObject({
      line: 2,
      why: "",
      paper: {
        model: "Fjell 70",
        work: "paste and pads",
        beforeC: 79,
        afterC: 70,
        roomBeforeC: 22,
        roomAfterC: null,
        roomIsRead: false,
        fan: "same",
        use: "games",
      },
    });
  });

  it.each([
    ["dusted out", "cleaned"],
    ["re-pasted", "repasted"],
    ["thermal pads", "pads"],
    ["waterblock fitted", "another cooler"],
    ["oiled the left fan", "fans"],
    ["reflowed", "reflowed"],
  ])("“%s” is “%s”", (text, work) => {
    expect(fates(`Card,Work,Before,After\nA,${text},79,68\n`)[0]?.paper?.work).toBe(work);
  });

  it.each([
    ["same", "same"],
    ["65 %", "same"],
    ["no", "not the same"],
    ["automatic", "not the same"],
    ["", "unknown"],
  ])("a fan of “%s” is %s", (text, fan) => {
    expect(fates(`Card,Work,Before,After,Fan\nA,paste,79,68,${text}\n`)[0]?.paper?.fan).toBe(fan);
  });

  it("both rooms typed were read", () => {
    const [fate] = fates("Card,Work,Before,After,Room before,Room after\nA,paste,79,68,22,24\n");
    expect(fate?.paper).toMatchObject({ roomBeforeC: 22, roomAfterC: 24, roomIsRead: true });
  });

  it.each([
    ["text for a number", "A,paste,warm,68,", /“warm” under “Before” is no number/],
    ["nothing before", "A,paste,,68,", /no temperature before/],
    ["nothing after", "A,paste,79,,", /no temperature after/],
    ["no card", ",paste,79,68,", /which card or board model/],
    ["no work", "A,,79,68,", /what was done/],
    ["a day that is none", "A,paste,79,68,31.2.2024", /“31.2.2024” is no day/],
    ["colder than anything", "A,paste,-5,68,", /between 0 and 150/],
  ])("%s is said, and the row stays out", (_, line, why) => {
    const [fate, good] = fates(`Card,Work,Before,After,Date\n${line}\nB,paste,79,68,1.2.2024\n`);
    expect(fate?.paper).toBeNull();
    expect(fate?.why).toMatch(why);
    expect(good).toMatchObject({ line: 3, why: "", paper: { model: "B", doneOn: "2024-02-01" } });
  });

  it("a room warmer than the card is none", () => {
    expect(fates("Card,Work,Before,After,Room\nA,paste,30,28,35\n")[0]?.why).toMatch(/warmer than its room/);
  });

  it("days follow what is said of their order", () => {
    const text = "Card,Work,Before,After,Date\nA,paste,79,68,3/4/2024\n";
    expect(fates(text)[0]?.paper?.doneOn).toBe("2024-04-03");
    expect(fates(text, { monthFirst: true })[0]?.paper?.doneOn).toBe("2024-03-04");
  });
});
