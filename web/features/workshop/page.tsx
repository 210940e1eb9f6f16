import { useState } from "react";
import { toast } from "sonner";
import { API, type Settings, SettingsInput, urlOf } from "#contract";
import { api } from "../../app/api.ts";
import { type Fault, faultOf } from "../../app/fault.ts";
import { useDraftForm } from "../../app/use-draft-form.ts";
import { Button } from "../../ui/button.tsx";
import { numberOrNull, TextField } from "../../ui/field.tsx";
import { FileDrop } from "../../ui/file-drop.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Page, Sheet, Waiting } from "../../ui/page.tsx";
import { Term } from "../../ui/term.tsx";
import { KeepingSheet } from "./keeping-sheet.tsx";
import { PassphraseSheet } from "./passphrase-sheet.tsx";
import { WeekSheet } from "./week-sheet.tsx";

/** Settings, and everything that carries the workshop's data in and out. */
export function WorkshopPage() {
  return (
    <Page title="Workshop" lead="Settings, and your data: out, in and safe.">
      <div className="grid items-start gap-4 lg:grid-cols-2">
        <div className="space-y-4">
          <SettingsSheet />
          <WeekSheet />
          <PassphraseSheet />
        </div>
        <div className="space-y-4">
          <KeepingSheet />
          <DataSheet />
          <ImportSheet />
        </div>
      </div>
    </Page>
  );
}

function SettingsSheet() {
  const { data, error } = api.useSettingsQuery();
  return (
    <Sheet title="Settings">
      {data ? <SettingsForm settings={data} /> : error ? <FaultNote error={error} /> : <Waiting what="the settings" />}
    </Sheet>
  );
}

function SettingsForm({ settings }: { settings: Settings }) {
  const [change] = api.useChangeSettingsMutation();
  const { form, submit, busy, fault, drafted } = useDraftForm({
    name: "settings",
    schema: SettingsInput,
    load: { start: settings, version: 0 },
    save: (value) => change(value),
    onSaved: () => void toast("Saved"),
  });
  const { register, formState } = form;
  const { errors } = formState;
  return (
    <form noValidate className="space-y-4" onSubmit={submit}>
      <div className="grid gap-4 sm:grid-cols-2">
        <TextField label="Name of the workshop" {...register("workshop")} error={errors.workshop?.message} />
        <TextField
          label="Address"
          {...register("address")}
          error={errors.address?.message}
          hint="Stands on records, with a telephone if you like"
        />
        <TextField label="Currency" {...register("currency")} error={errors.currency?.message} />
        <TextField
          label="Usual person"
          {...register("person")}
          error={errors.person?.message}
          hint="Offered in work notes"
        />
      </div>
      <h3 className="font-semibold">
        <Term of="mounting">Scatter of this bench</Term>
      </h3>
      <p className="text-sm text-soft">
        One standard deviation at load, in kelvin. Measure them: the same card run twice gives the run scatter; mounted
        anew and run again, the mounting scatter. Every verdict counts both.
      </p>
      <div className="grid gap-4 sm:grid-cols-2">
        <TextField
          label="From mounting to mounting (K)"
          inputMode="decimal"
          {...register("scatterMountK", { setValueAs: numberOrNull })}
          error={errors.scatterMountK?.message}
          hint="Usual: 0.7"
        />
        <TextField
          label="From run to run (K)"
          inputMode="decimal"
          {...register("scatterRunK", { setValueAs: numberOrNull })}
          error={errors.scatterRunK?.message}
          hint="Usual: 0.5"
        />
      </div>
      <TextField
        label="Warmest room a card will work in (°C)"
        inputMode="decimal"
        {...register("warmestRoomC", { setValueAs: numberOrNull })}
        error={errors.warmestRoomC?.message}
        hint="Limits are held against it. Empty: the room of the runs"
      />
      <h3 className="font-semibold">The workroom’s air</h3>
      <p className="text-sm text-soft">
        Where nothing was measured: washed parts dry in it, alcohol evaporates into it.
      </p>
      <div className="grid gap-4 sm:grid-cols-2 lg:grid-cols-4">
        <TextField
          label="Room air (°C)"
          inputMode="decimal"
          {...register("roomC", { setValueAs: numberOrNull })}
          error={errors.roomC?.message}
        />
        <TextField
          label="Humidity (%)"
          inputMode="decimal"
          {...register("humidityPct", { setValueAs: numberOrNull })}
          error={errors.humidityPct?.message}
        />
        <TextField
          label="Size (m³)"
          inputMode="decimal"
          {...register("roomM3", { setValueAs: numberOrNull })}
          error={errors.roomM3?.message}
          hint="Length × width × height"
        />
        <TextField
          label="Air changes an hour"
          inputMode="decimal"
          {...register("airChangesPerHour", { setValueAs: numberOrNull })}
          error={errors.airChangesPerHour?.message}
          hint="Closed: about 0.5. Window ajar: 2. Wide open: 8"
        />
      </div>
      <h3 className="font-semibold">What work costs</h3>
      <p className="text-sm text-soft">Quotes begin with these; each can change them.</p>
      <div className="grid gap-4 sm:grid-cols-2 lg:grid-cols-4">
        <TextField
          label="An hour of hands"
          inputMode="decimal"
          {...register("hourlyRate", { setValueAs: numberOrNull })}
          error={errors.hourlyRate?.message}
        />
        <TextField
          label="An hour of bench"
          inputMode="decimal"
          {...register("benchRate", { setValueAs: numberOrNull })}
          error={errors.benchRate?.message}
        />
        <TextField
          label="Tax (%)"
          inputMode="decimal"
          {...register("taxPct", { setValueAs: numberOrNull })}
          error={errors.taxPct?.message}
        />
        <TextField
          label="Card worth (times)"
          inputMode="decimal"
          {...register("worthTimes", { setValueAs: numberOrNull })}
          error={errors.worthTimes?.message}
          hint="Below, work is called rarely sensible"
        />
      </div>
      <FaultNote fault={fault} />
      <div className="text-right">
        <Button look="main" type="submit" disabled={busy || !drafted}>
          Save settings
        </Button>
      </div>
    </form>
  );
}

const OUT = [
  {
    href: urlOf(API.exportAll, {}),
    name: "Everything as JSON",
    hint: "Logs and photos included; can be imported on another machine",
  },
  { href: urlOf(API.cardsCsv, {}), name: "Cards as CSV", hint: "For a spreadsheet" },
  { href: urlOf(API.runsCsv, {}), name: "Runs as CSV", hint: "Conditions and figures, one line per run" },
  { href: urlOf(API.notesCsv, {}), name: "Work notes as CSV", hint: "For a spreadsheet" },
  {
    href: urlOf(API.backup, {}),
    name: "Backup of the database",
    hint: "Checked before it is sent; put it back with algidus restore",
  },
] as const;

function DataSheet() {
  return (
    <Sheet title="Take your data out">
      <ul className="divide-y divide-line">
        {OUT.map(({ href, name, hint }) => (
          <li key={href} className="py-2">
            <a href={href} download className="inline-block min-h-6 font-semibold text-ice hover:underline">
              {name}
            </a>
            <p className="text-sm text-soft">{hint}</p>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}

function ImportSheet() {
  const [send, { isLoading }] = api.useImportFileMutation();
  const [fault, setFault] = useState<Fault | null>(null);
  const [report, setReport] = useState<string | null>(null);
  const read = async (file: File | undefined): Promise<void> => {
    setFault(null);
    setReport(null);
    if (!file) return;
    const answer = await send(file);
    if ("error" in answer) {
      const found = faultOf(answer.error);
      setFault(found && { ...found, what: found.what.replace(/^The file\b/, file.name) });
    } else {
      const { added, alreadyHere } = answer.data;
      setReport(
        `${added.cards ?? 0} cards, ${added.runs ?? 0} runs and ${added.workNotes ?? 0} notes came in; ${alreadyHere.cards ?? 0} cards were here already.`,
      );
    }
  };
  return (
    <Sheet title="Import an export">
      <FileDrop accept="application/json,.json" className="min-h-14 border p-4" onFiles={([file]) => void read(file)}>
        {isLoading ? "Importing…" : "Choose an exported JSON file"}
      </FileDrop>
      <p className="mt-2 text-sm text-soft">
        What is here already stays as it is; all else comes in, or nothing at all.
      </p>
      {report && (
        <div className="mt-2" role="status">
          <Note title="Imported">{report}</Note>
        </div>
      )}
      <div className="mt-2">
        <FaultNote fault={fault} />
      </div>
    </Sheet>
  );
}
