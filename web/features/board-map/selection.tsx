import { useState } from "react";
import {
  type Alignment,
  align,
  type BoardMap,
  COOLED_BY,
  DIE_ID,
  type MapPart,
  type MapScrew,
  makeRow,
  mirrorCopy,
  PART_KINDS,
  removeThings,
  setGroup,
  spreadOut,
  thingsOf,
  turnThings,
} from "#core/boardmap/index.ts";
import { PlugKind, ScrewKind } from "../../parts/board/fastener-fields.tsx";
import { ScrewFlags } from "../../parts/board/screw-flags.tsx";
import { COOLED_WORDS } from "../../parts/board/words.ts";
import { Button } from "../../ui/button.tsx";
import { SelectField, TextField } from "../../ui/field.tsx";
import { NumberField } from "../../ui/number-field.tsx";
import { Sheet } from "../../ui/page.tsx";
import type { MapEditor } from "./use-map-editor.ts";

/** What is picked: its numbers, and what can be done with it. */
export function Selection({ editor }: { editor: MapEditor }) {
  const { map, picked, change } = editor;
  if (picked.length === 0)
    return (
      <Sheet title="Nothing picked">
        <p className="text-soft">Pick something on the plan to see and change its size, height and cooling.</p>
      </Sheet>
    );
  const only = picked.length === 1 ? picked[0] : undefined;
  const part = map.parts.find((one) => one.id === only);
  const screw = map.screws.find((one) => one.id === only);
  const plug = map.plugs.find((one) => one.id === only);
  return (
    <Sheet
      title={only === DIE_ID ? "Die" : (only ?? `${picked.length} picked`)}
      action={
        <Button look="danger" onClick={() => change(removeThings(map, picked), "Remove", { picked: [] })}>
          Remove
        </Button>
      }
    >
      <div className="space-y-3">
        {only === DIE_ID && map.die && <BoxFields box={map.die} onBox={(die) => change({ ...map, die }, "Die")} />}
        {part && <PartFields editor={editor} part={part} />}
        {screw && <ScrewFields editor={editor} screw={screw} />}
        {plug && (
          <PlugKind
            plug={plug}
            onPlug={(more) =>
              change(
                { ...map, plugs: map.plugs.map((one) => (one.id === plug.id ? { ...one, ...more } : one)) },
                `Change ${plug.id}`,
              )
            }
          />
        )}
        {!only && <ManyFields editor={editor} />}
        <Repeat key={picked.join()} editor={editor} />
        {picked.length > 1 && <Arrange editor={editor} />}
      </div>
    </Sheet>
  );
}

interface SizedBox {
  xMm: number;
  yMm: number;
  widthMm: number;
  heightMm: number;
}

function BoxFields<T extends SizedBox>({ box, onBox }: { box: T; onBox: (box: T) => void }) {
  return (
    <div className="grid grid-cols-2 gap-2">
      {(
        [
          ["xMm", "Centre x", "mm", -500],
          ["yMm", "Centre y", "mm", -500],
          ["widthMm", "Width", "mm", 0.1],
          ["heightMm", "Height", "mm", 0.1],
        ] as const
      ).map(([key, label, unit, least]) => (
        <NumberField
          key={key}
          label={label}
          unit={unit}
          value={box[key]}
          least={least}
          most={1000}
          onValue={(value) => value !== null && onBox({ ...box, [key]: value })}
        />
      ))}
    </div>
  );
}

const replacePart = (map: BoardMap, id: string, more: Partial<MapPart>): BoardMap => ({
  ...map,
  parts: map.parts.map((part) => (part.id === id ? { ...part, ...more } : part)),
});

function PartFields({ editor: { map, change }, part }: { editor: MapEditor; part: MapPart }) {
  const set = (more: Partial<MapPart>): void =>
    change(replacePart(map, part.id, more), `Change ${part.id}`, more.id ? { picked: [more.id] } : {});
  return (
    <>
      <div className="grid grid-cols-2 gap-2">
        <NameField name={part.id} taken={thingsOf(map).map((thing) => thing.id)} onName={(id) => set({ id })} />
        <SelectField
          label="Kind"
          value={part.kind}
          onChange={(event) => set({ kind: event.target.value as MapPart["kind"] })}
        >
          {PART_KINDS.map((kind) => (
            <option key={kind}>{kind}</option>
          ))}
        </SelectField>
      </div>
      <BoxFields box={part} onBox={set} />
      <CooledField value={part.cooledBy} onValue={(cooledBy) => set({ cooledBy })} />
      <div className="grid grid-cols-2 gap-2">
        <NumberField
          label="Tall"
          unit="mm"
          value={part.tallMm}
          optional
          least={0}
          most={100}
          onValue={(tallMm) => set({ tallMm })}
        />
        <NumberField
          label="Guide value"
          unit="mm"
          value={part.guideMm}
          optional
          least={0.1}
          most={12}
          onValue={(guideMm) => set({ guideMm })}
        />
      </div>
    </>
  );
}

function CooledField({
  value,
  onValue,
}: {
  value: MapPart["cooledBy"] | "";
  onValue: (value: MapPart["cooledBy"]) => void;
}) {
  return (
    <SelectField
      label="Cooled by"
      value={value}
      onChange={(event) => onValue(event.target.value as MapPart["cooledBy"])}
    >
      {value === "" && <option value="">different</option>}
      {COOLED_BY.map((one) => (
        <option key={one} value={one}>
          {COOLED_WORDS[one]}
        </option>
      ))}
    </SelectField>
  );
}

function NameField({ name, taken, onName }: { name: string; taken: string[]; onName: (name: string) => void }) {
  const [text, setText] = useState(name);
  const clean = text.trim();
  const error =
    clean === "" ? "Give it a name." : clean !== name && taken.includes(clean) ? "This name is taken." : undefined;
  return (
    <TextField
      label="Name"
      value={text}
      error={error}
      maxLength={20}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => !error && clean !== name && onName(clean)}
    />
  );
}

function ScrewFields({ editor: { map, change }, screw }: { editor: MapEditor; screw: MapScrew }) {
  const set = (more: Partial<MapScrew>): void =>
    change(
      { ...map, screws: map.screws.map((one) => (one.id === screw.id ? { ...one, ...more } : one)) },
      `Change ${screw.id}`,
    );
  return (
    <>
      <div className="grid grid-cols-2 gap-2">
        {(
          [
            ["xMm", "Centre x", "mm", -500, 1000],
            ["yMm", "Centre y", "mm", -500, 1000],
            ["holeMm", "Hole", "mm", 0.5, 12],
            ["forceN", "Pull when seated", "N", 0, 1000],
            ["springNPerMm", "Spring", "N/mm", 0, 2000],
            ["washerMm", "Washer under its head", "mm", 0, 5],
          ] as const
        ).map(([key, label, unit, least, most]) => (
          <NumberField
            key={key}
            label={label}
            unit={unit}
            value={screw[key]}
            least={least}
            most={most}
            onValue={(value) => value !== null && set({ [key]: value })}
          />
        ))}
      </div>
      <ScrewFlags screw={screw} onFlag={set} />
      <ScrewKind screw={screw} onScrew={set} />
    </>
  );
}

function ManyFields({ editor: { map, picked, change } }: { editor: MapEditor }) {
  const parts = map.parts.filter((part) => picked.includes(part.id));
  if (parts.length === 0) return null;
  const cooled = new Set(parts.map((part) => part.cooledBy));
  return (
    <CooledField
      value={cooled.size === 1 ? (parts[0]?.cooledBy ?? "") : ""}
      onValue={(cooledBy) =>
        change(
          { ...map, parts: map.parts.map((part) => (picked.includes(part.id) ? { ...part, cooledBy } : part)) },
          "Cooled by",
        )
      }
    />
  );
}

/** Rows by count and pitch, mirrored copies, quarter turns. */
function Repeat({ editor: { map, picked, change } }: { editor: MapEditor }) {
  const first = thingsOf(map).find((thing) => thing.id === picked[0]);
  const [count, setCount] = useState(4);
  const [dx, setDx] = useState(0);
  const [dy, setDy] = useState(Math.round(((first?.heightMm ?? 10) + 4) * 2) / 2);
  if (picked.includes(DIE_ID)) return null;
  return (
    <fieldset className="rounded-lg border border-line p-3">
      <legend className="px-1 font-medium">Repeat</legend>
      <div className="grid grid-cols-3 gap-2">
        <NumberField
          label="In all"
          unit=""
          value={count}
          least={2}
          most={60}
          onValue={(value) => value && setCount(value)}
        />
        <NumberField
          label="Step x"
          unit="mm"
          value={dx}
          least={-500}
          most={500}
          onValue={(value) => setDx(value ?? 0)}
        />
        <NumberField
          label="Step y"
          unit="mm"
          value={dy}
          least={-500}
          most={500}
          onValue={(value) => setDy(value ?? 0)}
        />
      </div>
      <div className="mt-2 flex flex-wrap gap-1">
        <Button
          onClick={() => {
            const made = makeRow(map, picked, count, dx, dy);
            change(made.map, "Row", { picked: made.ids });
          }}
        >
          Make the row
        </Button>
        {(["left-right", "up-down"] as const).map((across) => (
          <Button
            key={across}
            onClick={() => {
              const made = mirrorCopy(map, picked, across);
              change(made.map, "Mirror", { picked: [...picked, ...made.ids] });
            }}
          >
            {across === "left-right" ? "Mirror left to right" : "Mirror up to down"}
          </Button>
        ))}
        <Button onClick={() => change(turnThings(map, picked), "Turn")}>Turn</Button>
      </div>
      <p className="mt-1 text-sm text-soft">Mirrored across the middle of {map.die ? "the die" : "the board"}.</p>
    </fieldset>
  );
}

const ALIGNMENTS: ReadonlyArray<readonly [Alignment, string]> = [
  ["left", "Left edges"],
  ["centre-x", "Centres, upright"],
  ["right", "Right edges"],
  ["top", "Top edges"],
  ["centre-y", "Centres, level"],
  ["bottom", "Bottom edges"],
];

function Arrange({ editor: { map, picked, change } }: { editor: MapEditor }) {
  return (
    <fieldset className="rounded-lg border border-line p-3">
      <legend className="px-1 font-medium">Line up</legend>
      <div className="flex flex-wrap gap-1">
        {ALIGNMENTS.map(([how, words]) => (
          <Button key={how} onClick={() => change(align(map, picked, how), words)}>
            {words}
          </Button>
        ))}
        <Button onClick={() => change(spreadOut(map, picked, "xMm"), "Spread")}>Spread across</Button>
        <Button onClick={() => change(spreadOut(map, picked, "yMm"), "Spread")}>Spread upward</Button>
        <Button onClick={() => change(setGroup(map, picked, true), "Group")}>Group</Button>
        <Button onClick={() => change(setGroup(map, picked, false), "Ungroup")}>Ungroup</Button>
      </div>
    </fieldset>
  );
}
