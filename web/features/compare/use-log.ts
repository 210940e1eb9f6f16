import * as Comlink from "comlink";
import { useCallback, useEffect, useState } from "react";
import type { Mapping } from "#contract";
import type { Analysis, ProblemDetail } from "#core";
import { tooLarge } from "../../parts/run/too-large.ts";
import type { CardChoice, RunView } from "../../workers/run-session.ts";
import { useRunSession } from "../../workers/use-run-session.ts";

export interface ReadLog {
  view: RunView | null;
  analysis: Analysis | null;
  problem: ProblemDetail | null;
  cards: readonly CardChoice[];
  mapping: Mapping;
  hasRoomColumn: boolean;
  /** Room air it was judged with, °C; null where the log has its own or nobody typed it. */
  ambientC: number | null;
  chooseCard: (mapping: Mapping) => void;
}

/** One log of the page: read in its worker, judged again when the room air is typed. */
export function useLog(file: File | null, typedC: number | null): ReadLog {
  const session = useRunSession();
  const [view, setView] = useState<RunView | null>(null);
  const [analysis, setAnalysis] = useState<Analysis | null>(null);
  const [problem, setProblem] = useState<ProblemDetail | null>(null);
  const [cards, setCards] = useState<readonly CardChoice[]>([]);
  const [mapping, setMapping] = useState<Mapping>([]);

  const settle = useCallback(
    async (map: Mapping): Promise<void> => {
      if (!session) return;
      const answer = await session.limited((remote) =>
        remote.settle({ map: map.map(({ header, role }) => [role, header] as const) }),
      );
      if ("problem" in answer) {
        setProblem(answer.problem);
        if (answer.problem.code !== "which-card") return;
        const found = await session.limited((remote) => remote.cards());
        if ("ok" in found) setCards(found.ok);
        return;
      }
      setProblem(null);
      setCards([]);
      setMapping(map);
      setView(answer.ok);
    },
    [session],
  );

  useEffect(() => {
    setView(null);
    setAnalysis(null);
    setProblem(null);
    setCards([]);
    setMapping([]);
    if (!session || !file) return;
    const refused = tooLarge(file);
    if (refused) {
      setProblem(refused);
      return;
    }
    let isCurrent = true;
    void (async () => {
      const opened = await session.limited((remote) =>
        remote.openFile(
          file,
          Comlink.proxy(() => undefined),
        ),
      );
      if (!isCurrent) return;
      if ("problem" in opened) setProblem(opened.problem);
      else await settle([]);
    })();
    return () => {
      isCurrent = false;
    };
  }, [session, file, settle]);

  const hasRoomColumn = view?.columns.some((column) => column.role === "ambient") ?? false;
  const ambientC = hasRoomColumn ? null : typedC;
  useEffect(() => {
    if (!session || !view) return;
    let isCurrent = true;
    void session
      .limited((remote) => remote.analyse({ ambientC: ambientC ?? undefined }))
      .then((answer) => {
        if (!isCurrent) return;
        if ("ok" in answer) setAnalysis(answer.ok);
        else setProblem(answer.problem);
      });
    return () => {
      isCurrent = false;
    };
  }, [session, view, ambientC]);
  return {
    view,
    analysis,
    problem,
    cards,
    mapping,
    hasRoomColumn,
    ambientC,
    chooseCard: (map) => void settle(map),
  };
}
