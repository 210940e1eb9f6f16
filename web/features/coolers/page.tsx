import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { COOLER_KINDS, type Cooler, EMPTY_COOLER } from "#core/coolers/index.ts";
import { api } from "../../app/api.ts";
import { faultOf } from "../../app/fault.ts";
import { withUndo } from "../../app/with-undo.ts";
import { KIND_WORDS } from "../../parts/cooler/words.ts";
import { Button } from "../../ui/button.tsx";
import { SelectField, TextField } from "../../ui/field.tsx";
import { ImportFile } from "../../ui/import-file.tsx";
import { FaultNote } from "../../ui/note.tsx";
import { Page, Sheet, Waiting } from "../../ui/page.tsx";
import { coolerFromFile } from "./files.ts";

/** Coolers to put on cards: drawn to scale once, fitted to every board. */
export function CoolersPage() {
  const { data, error, isLoading } = api.useCoolersQuery();
  const [remove] = api.useRemoveCoolerMutation();
  return (
    <Page
      title="Coolers"
      lead="Each is drawn to scale once; whether it goes onto a board, with which screws, is worked out from that."
    >
      {isLoading && <Waiting what="the coolers" />}
      <FaultNote error={error} />
      <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,1fr)_22rem]">
        <Sheet title="Known coolers">
          {data?.length === 0 && (
            <p className="text-soft">
              None yet. Add one: a plate, its posts and its faces are enough to try it on a board.
            </p>
          )}
          <ul className="divide-y divide-line">
            {data?.map((one) => (
              <li key={one.id} className="flex flex-wrap items-center justify-between gap-2 py-1">
                <Link
                  to={`/coolers/${one.id}`}
                  className="min-h-11 content-center font-semibold text-ice hover:underline"
                >
                  {one.name}
                </Link>
                <span className="flex items-center gap-3 text-sm text-soft">
                  {KIND_WORDS[one.kind]}
                  {!one.fins && ` · ${one.cards === 1 ? "1 card" : `${one.cards} cards`}`}
                  <Button
                    look="quiet"
                    aria-label={`Remove ${one.name}`}
                    onClick={() =>
                      void withUndo(`${one.name} removed`, (removed) => remove({ coolerId: one.id, body: { removed } }))
                    }
                  >
                    Remove
                  </Button>
                </span>
              </li>
            ))}
          </ul>
        </Sheet>
        <NewCooler />
      </div>
    </Page>
  );
}

const BEGUN: Pick<Cooler, "outline" | "plate"> = {
  outline: { xMm: 0, yMm: 0, widthMm: 200, heightMm: 100 },
  plate: { xMm: 0, yMm: 0, widthMm: 40, heightMm: 40, metal: "copper" },
};

const FINS: Pick<Cooler, "fins"> = {
  fins: { widthMm: 14, lengthMm: 12, baseMm: 1.5, finHeightMm: 5, finThickMm: 1, count: 5 },
};

function NewCooler() {
  const [name, setName] = useState("");
  const [kind, setKind] = useState<Cooler["kind"]>("air");
  const [add, { error, isLoading }] = api.useAddCoolerMutation();
  const go = useNavigate();
  const put = async (cooler: Cooler): Promise<void> => {
    const made = await add({ cooler });
    if ("data" in made && made.data) void go(`/coolers/${made.data.id}`);
  };
  return (
    <Sheet title="Add a cooler">
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          void put({ ...EMPTY_COOLER, ...(kind === "heatsink" ? FINS : BEGUN), name: name.trim(), kind });
        }}
      >
        <TextField label="Name" value={name} maxLength={60} onChange={(event) => setName(event.target.value)} />
        <SelectField label="Kind" value={kind} onChange={(event) => setKind(event.target.value as Cooler["kind"])}>
          {COOLER_KINDS.map((one) => (
            <option key={one} value={one}>
              {KIND_WORDS[one]}
            </option>
          ))}
        </SelectField>
        <FaultNote fault={faultOf(error)} />
        <Button look="main" type="submit" disabled={isLoading || name.trim() === ""}>
          Draw it
        </Button>
      </form>
      <div className="mt-4 space-y-2 border-t border-line pt-4">
        <ImportFile
          button="Import from a file"
          accept=".json,.svg,application/json,image/svg+xml"
          label="Cooler file"
          onText={(file, text) => void put(coolerFromFile(file, text))}
        />
      </div>
    </Sheet>
  );
}
