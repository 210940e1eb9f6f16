import type { CardInput, NoteInput, RunInput, SkippableId } from "#contract";
import type { Bench, CardBuild, CardFaults, LogStyle, Sensors } from "#core/virtualcard/index.ts";

/** One run of a demo card: who it was made by is the simulated card, under which conditions is said here. */
export interface DemoRun {
  side: "before" | "after";
  name: string;
  faults: Partial<CardFaults>;
  bench: Partial<Bench>;
  sensors?: Partial<Sensors>;
  minutes?: number;
  style?: Partial<LogStyle>;
  /** Room air typed by hand instead of logged. */
  typedC?: number;
  /** It proves another attempt: what was changed before it. */
  changed?: string;
  input?: Partial<RunInput>;
}

export interface DemoCard {
  card: Partial<CardInput> & Pick<CardInput, "maker" | "model" | "serial" | "newBoardModel">;
  build: Partial<CardBuild>;
  runs: DemoRun[];
  note?: Partial<NoteInput> & Pick<NoteInput, "work" | "text">;
  skips?: SkippableId[];
  skipReason?: string;
  handedOver?: boolean;
  /** What was seen when the first power-on failed for want of a picture. */
  setAside?: string;
  daysAgo: number;
  photo?: boolean;
}

const noted = (id: CardInput["lookOver"][number]["id"], text: string): CardInput["lookOver"][number] => ({
  id,
  state: "noted",
  text,
});
const NO_ROOM = { room: null };

/** An invented workshop: makers, models, people and figures are made up. Each card shows one thing worth knowing. */
export const DEMO_CARDS: readonly DemoCard[] = [
  {
    card: {
      maker: "Ostrel",
      model: "Fjell 70",
      serial: "OF70-10342",
      newBoardModel: "OF-70 rev B",
      ownerName: "Mira Tolland",
      price: 210,
      ageYears: 4,
      useKind: "games",
      complaint: "Loud in every game, but temperatures look fine",
      seal: "whole",
      warranty: "out of warranty",
      lookOver: [noted("dirt", "Fine dust between the fins")],
    },
    build: {},
    runs: [
      { side: "before", name: "Fixed fan", faults: { dryPaste: 0.45, dust: 0.35 }, bench: { fan: 62, roomC: 21.6 } },
      {
        side: "before",
        name: "As the owner hears it",
        faults: { dryPaste: 0.45, dust: 0.35 },
        bench: { fan: "automatic", roomC: 21.9 },
      },
      { side: "after", name: "Fixed fan", faults: {}, bench: { fan: 62, roomC: 22.3 } },
      { side: "after", name: "As the owner hears it", faults: {}, bench: { fan: "automatic", roomC: 22.4 } },
    ],
    note: {
      work: ["cleaned", "repasted"],
      compound: "Grey paste, 8 W/mK",
      minutes: 45,
      text: "Old paste dry at the corners. Fins brushed and blown out.",
    },
    daysAgo: 2,
    photo: true,
  },
  {
    card: {
      maker: "Quillmar",
      model: "Sedge 6",
      serial: "QS6-2231-A",
      newBoardModel: "QS-6",
      holder: "stock",
      price: 95,
      ageYears: 2,
      useKind: "office",
      complaint: "",
      seal: "missing",
      warranty: "out of warranty",
    },
    build: { powerW: 120, finsKPerW: 0.19, pasteKPerW: 0.08, gapKPerW: 0.09, zeroFanBelowC: 0 },
    runs: [
      { side: "before", name: "Fixed fan", faults: { dryPaste: 0.02 }, bench: { fan: 60, roomC: 22.8 } },
      { side: "after", name: "Fixed fan", faults: {}, bench: { fan: 60, roomC: 22.1 } },
    ],
    note: {
      work: ["repasted"],
      compound: "Grey paste, 8 W/mK",
      minutes: 30,
      text: "Paste was still soft. Replaced all the same.",
    },
    daysAgo: 6,
  },
  {
    card: {
      maker: "Brevane",
      model: "Tarn 12",
      serial: "BT12/77/0415",
      newBoardModel: "BT-12",
      ownerName: "Jonas Ekwerd",
      price: 340,
      ageYears: 5,
      useKind: "games",
      complaint: "Was cooler last winter",
      seal: "damaged",
      warranty: "out of warranty",
      lookOver: [
        noted("screws", "Two screws with worn heads: opened before"),
        noted("oil", "Oil film below the memory"),
      ],
    },
    build: { powerW: 250, finsKPerW: 0.1, pasteKPerW: 0.045, memoryPadKPerW: 0.42 },
    runs: [
      { side: "before", name: "Fixed fan", faults: { dryPaste: 0.28, dust: 0.2 }, bench: { fan: 65, roomC: 18.9 } },
      { side: "after", name: "Fixed fan", faults: {}, bench: { fan: 65, roomC: 27.4, roomDriftKPerH: 1.2 } },
    ],
    note: {
      work: ["cleaned", "repasted", "pads replaced"],
      compound: "Phase-change sheet",
      minutes: 80,
      text: "Pads oily, replaced with 1.5 mm soft. Five heat cycles before measuring.",
    },
    daysAgo: 4,
  },
  {
    card: {
      maker: "Ostrel",
      model: "Fjell 90",
      serial: "OF90-00871",
      newBoardModel: "OF-90",
      ownerName: "Ilka Brandsund",
      price: 520,
      ageYears: 3,
      useKind: "long constant load",
      complaint: "Slower than it was",
      seal: "missing",
      warranty: "owner accepts opening",
      lookOver: [noted("dirt", "Smoke film on the blades")],
    },
    build: {
      powerW: 300,
      finsKPerW: 0.1,
      pasteKPerW: 0.045,
      gapKPerW: 0.055,
      edgeLimitC: 84,
      hotspotLimitC: 104,
      fanMaxRpm: 2600,
    },
    runs: [
      {
        side: "before",
        name: "Fixed fan, throttles",
        faults: { dryPaste: 0.47, dust: 0.75 },
        bench: { fan: 50, roomC: 23.2 },
      },
      { side: "after", name: "Fixed fan", faults: { dust: 0.05 }, bench: { fan: 50, roomC: 22.4 } },
    ],
    note: {
      work: ["cleaned", "repasted", "fans oiled"],
      compound: "Grey paste, 8 W/mK",
      minutes: 95,
      text: "Film came off with warm soapy water, heatsink without electronics, dried overnight.",
    },
    daysAgo: 8,
    handedOver: true,
  },
  {
    card: {
      maker: "Brevane",
      model: "Tarn 8",
      serial: "BT8-5520",
      newBoardModel: "BT-8",
      ownerName: "Pavo Lindqvar",
      price: 180,
      ageYears: 4,
      useKind: "games",
      complaint: "Memory errors when hot",
      seal: "whole",
      warranty: "out of warranty",
    },
    build: { powerW: 170, memoryPadKPerW: 0.75 },
    runs: [
      {
        side: "before",
        name: "Fixed fan",
        faults: { memoryPads: "thin", dryPaste: 0.05 },
        bench: { fan: 62, roomC: 22 },
      },
      { side: "after", name: "Fixed fan, new pads", faults: { heldOffMm: 0.11 }, bench: { fan: 62, roomC: 22.3 } },
    ],
    note: {
      work: ["repasted", "pads replaced"],
      compound: "Grey paste, 8 W/mK",
      minutes: 70,
      text: "Memory pads 2.0 mm hard. Cooler closed with force.",
    },
    daysAgo: 1,
    photo: true,
  },
  {
    card: {
      maker: "Quillmar",
      model: "Reed 5",
      serial: "QR5-118",
      newBoardModel: "QR-5",
      ownerName: "Sanne Overdiek",
      price: 70,
      ageYears: 6,
      useKind: "office",
      complaint: "Fan rattles at start",
      seal: "unknown",
      warranty: "out of warranty",
    },
    build: {
      powerW: 95,
      finsKPerW: 0.24,
      pasteKPerW: 0.09,
      hasHotspot: false,
      hasMemorySensor: false,
      zeroFanBelowC: 0,
    },
    runs: [
      {
        side: "before",
        name: "Fixed fan, no room thermometer",
        faults: { dryPaste: 0.25, dust: 0.6 },
        bench: { fan: 60, roomC: 24 },
        sensors: NO_ROOM,
      },
      { side: "after", name: "Fixed fan", faults: {}, bench: { fan: 60, roomC: 21.5 }, sensors: NO_ROOM, typedC: 21.5 },
    ],
    note: {
      work: ["cleaned", "repasted", "fans oiled"],
      compound: "Grey paste, 8 W/mK",
      minutes: 40,
      text: "One drop of light machine oil under the sticker.",
    },
    daysAgo: 3,
  },
  {
    card: {
      maker: "Ostrel",
      model: "Fjell 70",
      serial: "OF70-11907",
      newBoardModel: "OF-70 rev B",
      holder: "stock",
      price: 150,
      ageYears: 4,
      useKind: "unknown",
      seal: "damaged",
      warranty: "out of warranty",
      lookOver: [noted("dirt", "Felt of dust on the fins")],
    },
    build: {},
    runs: [
      {
        side: "before",
        name: "Stopped early",
        faults: { dryPaste: 0.2, dust: 0.5 },
        bench: { fan: 62, roomC: 22.6 },
        minutes: 4,
      },
    ],
    daysAgo: 0,
  },
  {
    card: {
      maker: "Quillmar",
      model: "Sedge 9",
      serial: "QS9-0007",
      newBoardModel: "QS-9",
      ownerName: "Teun Haverkorn",
      price: 260,
      ageYears: 3,
      useKind: "games",
      complaint: "Black screens after an hour",
      seal: "whole",
      warranty: "not asked",
    },
    build: {},
    runs: [],
    daysAgo: 0,
  },
  {
    card: {
      maker: "Brevane",
      model: "Tarn 12",
      serial: "BT12/81/1022",
      newBoardModel: "BT-12",
      holder: "stock",
      price: 230,
      ageYears: 5,
      useKind: "long constant load",
      seal: "missing",
      warranty: "out of warranty",
      lookOver: [noted("blades", "One blade chipped")],
    },
    build: { powerW: 250, finsKPerW: 0.1, pasteKPerW: 0.045, memoryPadKPerW: 0.42 },
    runs: [
      {
        side: "before",
        name: "Fixed fan",
        faults: { dryPaste: 0.3, dust: 0.7, weakFan: 0.7 },
        bench: { fan: 65, roomC: 22.2 },
      },
    ],
    daysAgo: 1,
  },
  {
    card: {
      maker: "Brevane",
      model: "Tarn 12",
      serial: "BT12/83/0207",
      newBoardModel: "BT-12",
      ownerName: "Sanne Overdiek",
      price: 310,
      ageYears: 4,
      useKind: "games",
      complaint: "Fans race in every game",
      seal: "whole",
      warranty: "out of warranty",
    },
    build: { powerW: 250, finsKPerW: 0.1, pasteKPerW: 0.045, memoryPadKPerW: 0.42 },
    runs: [{ side: "before", name: "Fixed fan", faults: { dryPaste: 0.5 }, bench: { fan: 65, roomC: 21.9 } }],
    daysAgo: 0,
  },
  {
    card: {
      maker: "Ostrel",
      model: "Skar 40",
      serial: "OS40-5702",
      newBoardModel: "OS-40",
      ownerName: "Jorun Haas",
      price: 120,
      ageYears: 6,
      useKind: "games",
      complaint: "Smells of smoke, loud",
      seal: "missing",
      warranty: "out of warranty",
      lookOver: [noted("dirt", "Smoke film on everything")],
    },
    build: { powerW: 150, hasHotspot: false, edgeLimitC: 82 },
    runs: [
      {
        side: "before",
        name: "Fixed fan",
        faults: { dryPaste: 0.3, dust: 0.8 },
        bench: { fan: 60, roomC: 22.4 },
      },
    ],
    daysAgo: 0,
  },
  {
    card: {
      maker: "Ostrel",
      model: "Fjell 70",
      serial: "OF70-12310",
      newBoardModel: "OF-70 rev B",
      ownerName: "Arvid Sollner",
      price: 320,
      ageYears: 3,
      useKind: "games",
      complaint: "Should go into a loop of water",
      seal: "missing",
      warranty: "out of warranty",
    },
    build: {},
    runs: [
      {
        side: "before",
        name: "Fixed fan",
        faults: { dryPaste: 0.25 },
        bench: { fan: 62, roomC: 21.9 },
      },
    ],
    daysAgo: 0,
  },
  {
    card: {
      maker: "Ostrel",
      model: "Fjell 70",
      serial: "OF70-12055",
      newBoardModel: "OF-70 rev B",
      ownerName: "Ilse Wendrich",
      price: 290,
      ageYears: 4,
      useKind: "games",
      complaint: "Hotspot over 100",
      seal: "whole",
      warranty: "out of warranty",
    },
    build: {},
    runs: [
      {
        side: "before",
        name: "Fixed fan",
        faults: { dryPaste: 0.6 },
        bench: { fan: 62, roomC: 21.7 },
      },
    ],
    daysAgo: 0,
  },
  {
    card: {
      maker: "Brevane",
      model: "Tarn 12",
      serial: "BT12/84/0031",
      newBoardModel: "BT-12",
      ownerName: "Pelle Nyhavn",
      price: 300,
      ageYears: 4,
      useKind: "games",
      complaint: "Rattles when it starts",
      seal: "whole",
      warranty: "out of warranty",
    },
    build: { powerW: 250, finsKPerW: 0.1, pasteKPerW: 0.045, memoryPadKPerW: 0.42 },
    runs: [
      {
        side: "before",
        name: "Fixed fan",
        faults: { weakFan: 0.8 },
        bench: { fan: 65, roomC: 22 },
      },
    ],
    daysAgo: 0,
  },
  {
    card: {
      maker: "Ostrel",
      model: "Skar 40",
      serial: "OS40-5613",
      newBoardModel: "OS-40",
      ownerName: "Mira Tolland",
      price: 130,
      ageYears: 7,
      useKind: "games",
      complaint: "Crashes in summer",
      seal: "missing",
      warranty: "out of warranty",
    },
    build: { powerW: 150, hasHotspot: false, edgeLimitC: 82 },
    runs: [
      {
        side: "before",
        name: "Fixed fan",
        faults: { dryPaste: 0.4, dust: 0.5 },
        bench: { fan: 60, roomC: 22.9 },
        style: { delimiter: ";", decimal: ",", headers: "german", time: "clock", startS: 52_300 },
      },
    ],
    note: {
      work: ["cleaned", "repasted"],
      compound: "Grey paste, 8 W/mK",
      minutes: 55,
      text: "Dry since this morning. Half closed: one screw of another size is to be replaced first.",
    },
    daysAgo: 1,
  },
  {
    card: {
      maker: "Quillmar",
      model: "Reed 3",
      serial: "QR3-90210",
      newBoardModel: "QR-3",
      ownerName: "Bertil Aasgard",
      price: 60,
      ageYears: 8,
      useKind: "games",
      complaint: "Very hot and loud",
      seal: "whole",
      warranty: "out of warranty",
      lookOver: [noted("dirt", "Dust and pet hair"), noted("oil", "Oil at two pads")],
    },
    build: { powerW: 140, finsKPerW: 0.16, hasHotspot: false, zeroFanBelowC: 0 },
    runs: [
      { side: "before", name: "Fixed fan", faults: { dryPaste: 0.5, dust: 0.6 }, bench: { fan: 62, roomC: 21.8 } },
      {
        side: "before",
        name: "Automatic",
        faults: { dryPaste: 0.5, dust: 0.6 },
        bench: { fan: "automatic", roomC: 22 },
      },
      { side: "after", name: "Fixed fan", faults: {}, bench: { fan: 62, roomC: 22.5 } },
      { side: "after", name: "Automatic", faults: {}, bench: { fan: "automatic", roomC: 22.6 } },
    ],
    note: {
      work: ["cleaned", "repasted", "fans oiled"],
      compound: "Grey paste, 8 W/mK",
      minutes: 90,
      text: "Eight years of dust. Heatsink washed without electronics and dried.",
    },
    daysAgo: 12,
    handedOver: true,
  },
  {
    card: {
      maker: "Brevane",
      model: "Loch 10",
      serial: "BL10-3344",
      newBoardModel: "BL-10",
      ownerName: "Ilka Brandsund",
      price: 480,
      ageYears: 2,
      useKind: "long constant load",
      complaint: "Memory at its limit",
      seal: "damaged",
      warranty: "owner accepts opening",
    },
    build: { powerW: 280, finsKPerW: 0.095, pasteKPerW: 0.042, memoryPadKPerW: 0.52, memoryShare: 0.17 },
    runs: [
      { side: "before", name: "Fixed fan", faults: { memoryPads: "thin" }, bench: { fan: 65, roomC: 22.4 } },
      { side: "after", name: "Fixed fan", faults: { heldOffMm: 0.2 }, bench: { fan: 65, roomC: 22 } },
      {
        side: "after",
        name: "Fixed fan, again",
        changed: "1.0 mm pads on the memory instead of 1.5 mm: the cooler did not come down",
        faults: {},
        bench: { fan: 65, roomC: 22.1 },
      },
    ],
    note: {
      work: ["pads replaced"],
      compound: "",
      minutes: 60,
      text: "Pads covered four tenths of each package. Full-size pads cut, 1.5 mm.",
    },
    daysAgo: 5,
    handedOver: true,
  },
  {
    card: {
      maker: "Ostrel",
      model: "Skar 60",
      serial: "OS60-0912",
      newBoardModel: "OS-60",
      holder: "stock",
      price: 175,
      ageYears: 3,
      useKind: "games",
      seal: "missing",
      warranty: "out of warranty",
      lookOver: [noted("blades", "Second fan turns stiffly")],
    },
    build: { powerW: 190 },
    runs: [
      { side: "before", name: "Fixed fan, one fan slow", faults: { weakFan: 0.9 }, bench: { fan: 62, roomC: 22.7 } },
      { side: "after", name: "Fixed fan, new fan", faults: {}, bench: { fan: 62, roomC: 22.5 } },
    ],
    note: {
      work: ["fan replaced"],
      compound: "",
      minutes: 25,
      text: "Fan replaced by part number. Cooler not opened.",
    },
    daysAgo: 7,
  },
  {
    card: {
      maker: "Brevane",
      model: "Loch 7",
      serial: "BL7-1180",
      newBoardModel: "BL-7",
      ownerName: "Pavo Lindqvar",
      price: 220,
      ageYears: 3,
      useKind: "games",
      complaint: "Wants it quieter",
      seal: "missing",
      warranty: "out of warranty",
    },
    build: { powerW: 180 },
    runs: [
      { side: "before", name: "Sweep, slow", faults: { dryPaste: 0.35 }, bench: { fan: 42, roomC: 22 } },
      { side: "before", name: "Sweep, middle", faults: { dryPaste: 0.35 }, bench: { fan: 56, roomC: 22.2 } },
      { side: "before", name: "Sweep, fast", faults: { dryPaste: 0.35 }, bench: { fan: 74, roomC: 22.3 } },
      { side: "after", name: "Sweep, slow", faults: {}, bench: { fan: 42, roomC: 21.7 } },
      { side: "after", name: "Sweep, middle", faults: {}, bench: { fan: 56, roomC: 21.9 } },
      { side: "after", name: "Sweep, fast", faults: {}, bench: { fan: 74, roomC: 22.1 } },
    ],
    note: {
      work: ["repasted"],
      compound: "Phase-change sheet",
      minutes: 50,
      text: "Six heat cycles before the sweep.",
    },
    daysAgo: 9,
  },
  {
    card: {
      maker: "Quillmar",
      model: "Sedge 6",
      serial: "QS6-2309-C",
      newBoardModel: "QS-6",
      holder: "stock",
      price: 40,
      ageYears: 2,
      useKind: "unknown",
      complaint: "Sold as untested",
      seal: "damaged",
      warranty: "out of warranty",
      lookOver: [noted("front", "Burn mark at a MOSFET"), noted("screws", "One screw missing")],
    },
    build: {},
    runs: [],
    setAside: "No picture in two slots and on all outputs",
    daysAgo: 1,
  },
];
