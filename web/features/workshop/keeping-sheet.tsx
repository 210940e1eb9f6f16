import { useState } from "react";
import type { Keeping, KeptBackup, Soundness } from "#contract";
import { api } from "../../app/api.ts";
import { Button } from "../../ui/button.tsx";
import { TextField } from "../../ui/field.tsx";
import { ago, dateTime, fileSize } from "../../ui/format.ts";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Sheet, Waiting } from "../../ui/page.tsx";

const LOOK_AGAIN_MS = 5000;
/** So many are shown; the rest are counted. */
const MOST_SHOWN = 6;

const WHY: Record<KeptBackup["why"], string> = {
  daily: "daily",
  "by-hand": "by hand",
  "before-import": "before an import",
};

const SOUND: Record<Soundness["state"], string> = {
  waiting: "The database is about to be read through.",
  running: "The database is being read through.",
  sound: "The database is sound.",
  damaged: "The database is damaged.",
  "not known": "The database could not be read through.",
};

/** Automatic backups with age and size, and whether the database is sound. */
export function KeepingSheet() {
  const { data, error } = api.useKeepingQuery(undefined, {
    pollingInterval: LOOK_AGAIN_MS,
    skipPollingIfUnfocused: true,
  });
  const [backUp, { isLoading, error: refused }] = api.useBackUpMutation();
  return (
    <Sheet
      title="Backups"
      action={
        <Button disabled={isLoading || !data} onClick={() => void backUp()}>
          {isLoading ? "Backing up…" : "Back up now"}
        </Button>
      }
    >
      {data ? <Kept keeping={data} /> : error ? <FaultNote error={error} /> : <Waiting what="the backups" />}
      <FaultNote error={refused} />
    </Sheet>
  );
}

function Kept({ keeping }: { keeping: Keeping }) {
  const { backups, changedSince, clockWentBack, trouble, held, soundness } = keeping;
  const newest = backups.find(({ ahead }) => !ahead) ?? backups[0];
  const isBad = soundness.state === "damaged";
  return (
    <div className="space-y-3">
      <p>
        {newest ? (
          <>
            <strong>Last one {ago(newest.at)}</strong>, {fileSize(newest.bytes)}
            {changedSince ? "." : "; nothing has changed since."}
            {held?.unreadable === 0 && ` Read back whole: ${held.rows} rows; logs, samples and photos: ${held.stored}.`}
          </>
        ) : (
          <strong>None yet: the first is taken within a minute of the start.</strong>
        )}
      </p>
      {trouble && (
        <Note kind="fault" title={`No backup on ${dateTime(trouble.at)}: ${trouble.what}`}>
          {trouble.remedy}
        </Note>
      )}
      {held && held.unreadable > 0 && (
        <Note
          kind="fault"
          title={`${held.unreadable === 1 ? "One stored log or photo" : `${held.unreadable} stored logs or photos`} can’t be read any more`}
        >
          The last backup holds all the rest. Older backups are kept for as long as this lasts: one of them may have{" "}
          {held.unreadable === 1 ? "it" : "them"} whole. “algidus check” names {held.unreadable === 1 ? "it" : "them"}.
        </Note>
      )}
      {clockWentBack && (
        <Note kind="caution" title="The clock of this machine went back">
          A backup is dated {dateTime(backups[0]?.at ?? "")}, which has not come yet. It is kept and not counted; new
          ones are taken every day. Set the clock right.
        </Note>
      )}
      {isBad || soundness.state === "not known" ? (
        <Note kind={isBad ? "fault" : "caution"} title={SOUND[soundness.state]}>
          <ul>
            {soundness.found.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
          {isBad &&
            "Stop the server, then run “algidus check --repair”; what that can’t mend, “algidus restore” brings back from the last good backup."}
        </Note>
      ) : (
        <p className="text-sm text-soft">
          {SOUND[soundness.state]}
          {soundness.at && ` Read through ${ago(soundness.at)}.`}
        </p>
      )}
      {backups.length > 0 && (
        <ul className="divide-y divide-line text-sm">
          {backups.slice(0, MOST_SHOWN).map(({ name, at, bytes, why }) => (
            <li key={name} className="grid grid-cols-[1fr_auto_5rem] gap-3 py-1.5">
              <span>{dateTime(at)}</span>
              <span className="text-soft">{WHY[why]}</span>
              <span className="text-right tabular-nums">{fileSize(bytes)}</span>
            </li>
          ))}
          {backups.length > MOST_SHOWN && (
            <li className="py-1.5 text-soft">and {backups.length - MOST_SHOWN} older ones</li>
          )}
        </ul>
      )}
      <p className="text-sm text-soft">
        One a day where something changed, and one before every import. Kept: the newest of seven days, five weeks and
        twelve months.
      </p>
      <FolderForm keeping={keeping} />
    </div>
  );
}

function FolderForm({ keeping }: { keeping: Keeping }) {
  const [change, { error, isLoading }] = api.useChangeBackupFolderMutation();
  const [typed, setTyped] = useState<string | null>(null);
  const held = keeping.usualFolder ? "" : keeping.folder;
  return (
    <form
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault();
        void change({ folder: typed ?? held }).then((answer) => {
          if (!("error" in answer)) setTyped(null);
        });
      }}
    >
      <TextField
        label="Folder of the backups"
        value={typed ?? held}
        placeholder={keeping.folder}
        onChange={(event) => setTyped(event.target.value)}
        hint="Another disk is safest. Empty: beside the database."
      />
      <FaultNote error={error} />
      {typed !== null && typed !== held && (
        <Button type="submit" disabled={isLoading}>
          Save folder
        </Button>
      )}
    </form>
  );
}
