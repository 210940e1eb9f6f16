import { type Cooler, FACE_USES, type FaceUse, METALS, threadDiameterMm } from "#core/coolers/index.ts";
import type { TypedUnit } from "#core/units/index.ts";
import { FACE_WORDS } from "../../parts/cooler/words.ts";
import { Button } from "../../ui/button.tsx";
import { SelectField } from "../../ui/field.tsx";
import { NumberField } from "../../ui/number-field.tsx";
import { Sheet } from "../../ui/page.tsx";
import { ThreadField } from "./thread-field.tsx";
import { type CoolerEditor, PLATE_ID } from "./use-cooler-editor.ts";

const PLACE = [
  ["xMm", "Centre x", "mm", -500, 500],
  ["yMm", "Centre y", "mm", -500, 500],
] as const;
const SIZE = [
  ["widthMm", "Width", "mm", 0.5, 600],
  ["heightMm", "Height", "mm", 0.5, 600],
] as const;

/** What is picked, with its figures. Places are from the die’s centre. */
export function CoolerSelection({ editor }: { editor: CoolerEditor }) {
  const { map: cooler, picked, change } = editor;
  const [id] = picked;
  if (id === undefined) return null;
  if (picked.length > 1) return <ManyPosts editor={editor} />;
  const set = <K extends "faces" | "posts" | "fans">(list: K, more: Partial<Cooler[K][number]>): void =>
    change(
      { ...cooler, [list]: cooler[list].map((one) => (one.id === id ? { ...one, ...more } : one)) },
      `Change ${id}`,
    );
  const { plate } = cooler;
  const face = cooler.faces.find((one) => one.id === id);
  const post = cooler.posts.find((one) => one.id === id);
  const fan = cooler.fans.find((one) => one.id === id);
  if (id === PLATE_ID && plate)
    return (
      <Sheet title="Plate">
        <Numbers
          of={plate}
          fields={[...PLACE, ...SIZE]}
          onValue={(more) => change({ ...cooler, plate: { ...plate, ...more } }, "Change the plate")}
        />
        <div className="mt-2">
          <SelectField
            label="Metal"
            value={plate.metal}
            onChange={(event) =>
              change({ ...cooler, plate: { ...plate, metal: event.target.value as typeof plate.metal } }, "Metal")
            }
          >
            {METALS.map((metal) => (
              <option key={metal}>{metal}</option>
            ))}
          </SelectField>
        </div>
      </Sheet>
    );
  if (face)
    return (
      <Sheet title={`Face ${id}`}>
        <Numbers
          of={face}
          fields={[...PLACE, ...SIZE, ["levelMm", "Level above the plate’s plane", "mm", -50, 100]]}
          onValue={(more) => set("faces", more)}
        />
        <p className="mt-1 text-sm text-soft">Above 0 it lies farther from the board than the plate’s face.</p>
        <div className="mt-2">
          <SelectField
            label="It takes"
            value={face.for}
            onChange={(event) => set("faces", { for: event.target.value as FaceUse })}
          >
            {FACE_USES.map((use) => (
              <option key={use} value={use}>
                {FACE_WORDS[use]}
              </option>
            ))}
          </SelectField>
        </div>
      </Sheet>
    );
  if (post)
    return (
      <Sheet title={`Post ${id}`}>
        <Numbers
          of={post}
          fields={[
            ...PLACE,
            ["holeDepthMm", "Depth of its hole", "mm", 0.5, 100],
            ["levelMm", "Level of its end", "mm", -50, 100],
          ]}
          onValue={(more) => set("posts", more)}
        />
        <p className="mt-1 text-sm text-soft">Its end lies so far behind the plate’s face, away from the board.</p>
        <ThreadField value={post.thread} onValue={(thread) => set("posts", { thread })} />
      </Sheet>
    );
  if (fan)
    return (
      <Sheet title={`Fan ${id}`}>
        <Numbers of={fan} fields={[...PLACE, ...SIZE]} onValue={(more) => set("fans", more)} />
      </Sheet>
    );
  return null;
}

/** Posts that are picked together are usually alike. */
function ManyPosts({ editor: { map: cooler, picked, change } }: { editor: CoolerEditor }) {
  const posts = cooler.posts.filter(({ id }) => picked.includes(id));
  const [first] = posts;
  if (!first) return null;
  const set = (more: Partial<typeof first>): void =>
    change(
      { ...cooler, posts: cooler.posts.map((one) => (picked.includes(one.id) ? { ...one, ...more } : one)) },
      "Change posts",
    );
  return (
    <Sheet title={`${posts.length} posts`}>
      <Numbers
        of={first}
        fields={[
          ["holeDepthMm", "Depth of their holes", "mm", 0.5, 100],
          ["levelMm", "Level of their ends", "mm", -50, 100],
        ]}
        onValue={set}
      />
      <ThreadField value={first.thread} onValue={(thread) => set({ thread })} />
      <p className="mt-2 text-sm text-soft">Screw ⌀ {threadDiameterMm(first.thread) ?? "?"} mm.</p>
      <Button
        className="mt-2"
        onClick={() => {
          const middle = posts.reduce((sum, one) => sum + one.xMm, 0) / posts.length;
          const level = posts.reduce((sum, one) => sum + one.yMm, 0) / posts.length;
          change(
            {
              ...cooler,
              posts: cooler.posts.map((one) =>
                picked.includes(one.id) ? { ...one, xMm: one.xMm - middle, yMm: one.yMm - level } : one,
              ),
            },
            "Centre on the die",
          );
        }}
      >
        Centre them on the die
      </Button>
    </Sheet>
  );
}

type Field<T> = readonly [key: keyof T & string, label: string, unit: TypedUnit, least: number, most: number];

function Numbers<T extends object>({
  of,
  fields,
  onValue,
}: {
  of: T;
  fields: ReadonlyArray<Field<T>>;
  onValue: (more: Partial<T>) => void;
}) {
  return (
    <div className="grid grid-cols-2 items-end gap-2">
      {fields.map(([key, label, unit, least, most]) => (
        <NumberField
          key={key}
          label={label}
          unit={unit}
          value={of[key] as number}
          least={least}
          most={most}
          onValue={(value) => value !== null && onValue({ [key]: value } as unknown as Partial<T>)}
        />
      ))}
    </div>
  );
}
