import { WhichCard } from "../../parts/run/which-card.tsx";
import { roleName, span } from "../../ui/format.ts";
import { Note } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";
import type { ReadLog } from "./use-log.ts";

/** One of the two logs in a few words: what was read, what is unsure, what went wrong. */
export function LogSide({ title, file, log }: { title: string; file: File; log: ReadLog }) {
  const { view, analysis, problem } = log;
  const used = view?.columns.filter((column) => column.role !== null) ?? [];
  const unsure = used.filter((column) => !column.sure);
  const chosen = analysis?.loads?.find((load) => load.chosen);
  return (
    <Sheet title={title}>
      <p className="break-all font-semibold">{file.name}</p>
      {!view && !problem && <p role="status">Reading…</p>}
      {problem && (
        <Note kind={problem.code === "which-card" ? "caution" : "fault"} title={problem.what} live>
          {problem.code === "which-card" ? "Choose the one that was worked on." : problem.remedy}
        </Note>
      )}
      <WhichCard cards={log.cards} onChoose={log.chooseCard} />
      {view && !problem && (
        <p className="text-soft">
          {span(view.durationS)} minutes, {used.length} columns recognised
          {unsure.length > 0 &&
            ` (unsure: ${unsure.map((column) => `“${column.header}” as ${roleName(column.role)}`).join(", ")})`}
          .
          {analysis?.loads && analysis.loads.length > 1 && chosen
            ? ` ${analysis.loads.length} loads; judged is the one from ${span(chosen.fromS)} to ${span(chosen.toS)}.`
            : ""}
          {analysis && !analysis.steady.reached ? " It had not settled." : ""}
        </p>
      )}
    </Sheet>
  );
}
