import { useState } from "react";
import * as v from "valibot";
import { PackageList } from "#contract";
import { DIE_ID, PART_KINDS, type Package } from "#core/boardmap/index.ts";
import { api } from "../../app/api.ts";
import { faultOf } from "../../app/fault.ts";
import { withUndo } from "../../app/with-undo.ts";
import { Button } from "../../ui/button.tsx";
import { SelectField, TextField } from "../../ui/field.tsx";
import { NumberField } from "../../ui/number-field.tsx";
import { Sheet } from "../../ui/page.tsx";
import type { MapEditor } from "./use-map-editor.ts";

/** What can be put on the board: die, screws, plugs, packages of the workshop's own list. */
export function Palette({
  editor,
  armed,
  onStamp,
  onScrew,
  onPlug,
}: {
  editor: MapEditor;
  armed: Package | null;
  onStamp: (pack: Package) => void;
  onScrew: () => void;
  onPlug: () => void;
}) {
  const { data: packages = [] } = api.usePackagesQuery();
  const { map, change } = editor;
  const { board } = map;
  /** Before anything stands on it its size is asked for. */
  const isBlank = map.die === null && map.parts.length === 0;
  const setBoard = (more: Partial<typeof board>): void =>
    change({ ...map, board: { ...board, ...more } }, "Board size");
  return (
    <Sheet title="Put on the board">
      <div className="flex flex-wrap gap-1">
        <Button
          disabled={map.die !== null}
          onClick={() =>
            change(
              {
                ...map,
                die: { xMm: board.widthMm / 2, yMm: board.heightMm / 2, widthMm: 20, heightMm: 22 },
              },
              "Place the die",
              { picked: [DIE_ID] },
            )
          }
        >
          Die
        </Button>
        <Button onClick={onScrew}>Screw</Button>
        <Button onClick={onPlug}>Plug</Button>
        {packages.map((pack) => (
          <Button key={pack.name} onClick={() => onStamp(pack)} aria-pressed={armed?.name === pack.name}>
            {pack.name}
          </Button>
        ))}
      </div>
      <PackageEditor packages={packages} />
      <details className="mt-2" open={isBlank || undefined}>
        <summary className="min-h-9 cursor-pointer content-center font-medium text-ice">Board and cooler</summary>
        <div className="mt-2 grid grid-cols-2 gap-2">
          <NumberField
            label="Board width"
            unit="mm"
            value={board.widthMm}
            least={10}
            most={1000}
            onValue={(value) => value && setBoard({ widthMm: value })}
          />
          <NumberField
            label="Board height"
            unit="mm"
            value={board.heightMm}
            least={10}
            most={1000}
            onValue={(value) => value && setBoard({ heightMm: value })}
          />
          <NumberField
            label="Thickness"
            unit="mm"
            value={board.thicknessMm}
            least={0.3}
            most={5}
            onValue={(value) => value && setBoard({ thicknessMm: value })}
          />
          <NumberField
            label="Stiffness"
            unit="GPa"
            value={board.youngGPa}
            least={1}
            most={300}
            onValue={(value) => value && setBoard({ youngGPa: value })}
          />
        </div>
        <p className="my-2 text-sm text-soft">Glass-epoxy with copper: about 22 GPa.</p>
        <div className="grid grid-cols-2 gap-2">
          {(["xMm", "yMm", "widthMm", "heightMm"] as const).map((key) => (
            <NumberField
              key={key}
              label={`Cooler ${{ xMm: "centre x", yMm: "centre y", widthMm: "width", heightMm: "height" }[key]}`}
              unit="mm"
              value={map.cooler?.[key] ?? null}
              least={key === "widthMm" || key === "heightMm" ? 1 : -500}
              most={1000}
              onValue={(value) => {
                const usual = {
                  xMm: board.widthMm / 2,
                  yMm: board.heightMm / 2,
                  widthMm: board.widthMm * 0.9,
                  heightMm: board.heightMm * 0.9,
                };
                if (value !== null)
                  change({ ...map, cooler: { ...(map.cooler ?? usual), [key]: value } }, "Cooler outline");
              }}
            />
          ))}
        </div>
      </details>
    </Sheet>
  );
}

const NEW: Package = { name: "", kind: "memory", widthMm: 14, heightMm: 12, tallMm: 1 };

function PackageEditor({ packages }: { packages: readonly Package[] }) {
  const [newest] = api.useLazyPackagesQuery();
  const [change, { isLoading }] = api.useChangePackagesMutation();
  const [own, setOwn] = useState(NEW);
  const [error, setError] = useState<string | undefined>();
  /** Changes the list as it is now, whoever else changed it meanwhile. */
  const edit = async (made: (now: readonly Package[]) => Package[]): Promise<{ error?: unknown }> => {
    const read = await newest();
    return read.data ? change(made(read.data)) : read;
  };
  const add = async (): Promise<void> => {
    const checked = v.safeParse(PackageList, [...packages, own]);
    if (!checked.success) return setError(checked.issues[0].message);
    if (packages.some((one) => one.name === own.name.trim())) return setError("There is one of this name.");
    const answer = await edit((now) => [...now, own]);
    const fault = faultOf(answer.error);
    setError(fault?.what);
    if (!fault) setOwn(NEW);
  };
  return (
    <details className="mt-2">
      <summary className="min-h-9 cursor-pointer content-center font-medium text-ice">Change this list</summary>
      <div className="mt-2 grid grid-cols-2 gap-2">
        <TextField
          label="Package name"
          value={own.name}
          error={error}
          onChange={(event) => setOwn({ ...own, name: event.target.value })}
        />
        <SelectField
          label="Kind of package"
          value={own.kind}
          onChange={(event) => setOwn({ ...own, kind: event.target.value as Package["kind"] })}
        >
          {PART_KINDS.map((kind) => (
            <option key={kind}>{kind}</option>
          ))}
        </SelectField>
        <NumberField
          label="Package width"
          unit="mm"
          value={own.widthMm}
          least={0.1}
          most={200}
          onValue={(value) => value && setOwn({ ...own, widthMm: value })}
        />
        <NumberField
          label="Package height"
          unit="mm"
          value={own.heightMm}
          least={0.1}
          most={200}
          onValue={(value) => value && setOwn({ ...own, heightMm: value })}
        />
        <Button disabled={isLoading} onClick={() => void add()}>
          Add to the list
        </Button>
      </div>
      <ul className="mt-2">
        {packages.map((pack) => (
          <li key={pack.name} className="flex items-center justify-between gap-2">
            <span>{pack.name}</span>
            <Button
              look="quiet"
              aria-label={`Take ${pack.name} off the list`}
              onClick={() =>
                void withUndo(`${pack.name} taken off the list`, (off) =>
                  edit((now) => {
                    const others = now.filter((one) => one.name !== pack.name);
                    return off ? others : [...others, pack];
                  }),
                )
              }
            >
              Take off
            </Button>
          </li>
        ))}
      </ul>
    </details>
  );
}
