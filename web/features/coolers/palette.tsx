import { type Cooler, freeCoolerId } from "#core/coolers/index.ts";
import { Button } from "../../ui/button.tsx";
import { NumberField } from "../../ui/number-field.tsx";
import { Sheet } from "../../ui/page.tsx";
import { type CoolerEditor, PLATE_ID } from "./use-cooler-editor.ts";

/** What can be put on a cooler: its plate, faces, posts, fans; and its outline. */
export function CoolerPalette({ editor: { map: cooler, change, picked } }: { editor: CoolerEditor }) {
  const { outline, plate } = cooler;
  const face = (): void => {
    const id = freeCoolerId(cooler, "f");
    const last = cooler.faces.at(-1);
    const made = last
      ? { ...last, id, xMm: last.xMm + 4, yMm: last.yMm - 4 }
      : { id, xMm: (plate?.xMm ?? 0) - 35, yMm: 0, widthMm: 16, heightMm: 50, levelMm: 0, for: "pad" as const };
    change({ ...cooler, faces: [...cooler.faces, made] }, "Add a face", { picked: [id] });
  };
  const four = (): void => {
    const [x, y] = [(plate?.widthMm ?? 40) / 2 + 7, (plate?.heightMm ?? 40) / 2 + 7];
    const next = [
      [-x, -y],
      [x, -y],
      [-x, y],
      [x, y],
    ].reduce((base, [px = 0, py = 0]) => post(px, py, base), cooler);
    change(next, "Four posts", { picked: next.posts.slice(-4).map(({ id }) => id) });
  };
  const mirror = (across: "xMm" | "yMm"): void => {
    const ids: string[] = [];
    const copies = <T extends { id: string; xMm: number; yMm: number }>(list: T[], letter: "f" | "p" | "fan"): T[] =>
      list.reduce<T[]>((all, one) => {
        if (!picked.includes(one.id)) return all;
        const taken = new Set([...all, ...list].map(({ id }) => id));
        let number = 1;
        while (taken.has(`${letter}${number}`)) number++;
        const id = `${letter}${number}`;
        ids.push(id);
        return [...all, { ...one, id, [across]: -one[across] }];
      }, list);
    const next = {
      ...cooler,
      faces: copies(cooler.faces, "f"),
      posts: copies(cooler.posts, "p"),
      fans: copies(cooler.fans, "fan"),
    };
    change(next, "Mirror", { picked: ids });
  };
  return (
    <Sheet title="Put on the cooler">
      <div className="flex flex-wrap gap-1">
        <Button
          disabled={plate !== null}
          onClick={() =>
            change(
              { ...cooler, plate: { xMm: 0, yMm: 0, widthMm: 40, heightMm: 40, metal: "copper" } },
              "Place the plate",
              { picked: [PLATE_ID] },
            )
          }
        >
          Plate
        </Button>
        <Button onClick={face}>Face</Button>
        <Button
          onClick={() => {
            const next = post(20, 20, cooler);
            change(next, "Add a post", { picked: next.posts.slice(-1).map(({ id }) => id) });
          }}
        >
          Post
        </Button>
        <Button onClick={four}>Four posts</Button>
        <Button
          onClick={() => {
            const id = freeCoolerId(cooler, "fan");
            const xMm = 95 * cooler.fans.length - 47.5;
            const fan = { id, xMm, yMm: 0, widthMm: 90, heightMm: 90 };
            change({ ...cooler, fans: [...cooler.fans, fan] }, "Add a fan", { picked: [id] });
          }}
        >
          Fan
        </Button>
      </div>
      {picked.some((id) => id !== PLATE_ID) && (
        <div className="mt-2 flex flex-wrap gap-1">
          <Button onClick={() => mirror("xMm")}>Mirror left to right</Button>
          <Button onClick={() => mirror("yMm")}>Mirror up to down</Button>
        </div>
      )}
      <details className="mt-2" open={outline === null}>
        <summary className="min-h-9 cursor-pointer content-center font-medium text-ice">Outline</summary>
        <div className="mt-2 grid grid-cols-2 gap-2">
          {(
            [
              ["widthMm", "Outline length", "mm", 10, 600],
              ["heightMm", "Outline width", "mm", 10, 400],
              ["xMm", "Its centre from the die, x", "mm", -400, 400],
              ["yMm", "Its centre from the die, y", "mm", -400, 400],
            ] as const
          ).map(([key, label, unit, least, most]) => (
            <NumberField
              key={key}
              label={label}
              unit={unit}
              value={outline?.[key] ?? null}
              least={least}
              most={most}
              onValue={(value) => {
                const usual = { xMm: 0, yMm: 0, widthMm: 200, heightMm: 100 };
                if (value !== null) change({ ...cooler, outline: { ...(outline ?? usual), [key]: value } }, "Outline");
              }}
            />
          ))}
        </div>
      </details>
    </Sheet>
  );
}

const post = (xMm: number, yMm: number, base: Cooler): Cooler => ({
  ...base,
  posts: [
    ...base.posts,
    { thread: "M2.5", holeDepthMm: 5, levelMm: 0.5, ...base.posts.at(-1), id: freeCoolerId(base, "p"), xMm, yMm },
  ],
});
