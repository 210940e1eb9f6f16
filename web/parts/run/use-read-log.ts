import * as Comlink from "comlink";
import { startTransition, useEffect, useState } from "react";
import type { Mapping } from "#contract";
import type { ProblemDetail, Role } from "#core";
import type { FanDrive, LoadInLog } from "#core/soak/index.ts";
import { api } from "../../app/api.ts";
import { numberOrNull } from "../../ui/field.tsx";
import type { CardChoice, RunView } from "../../workers/run-session.ts";
import { useRunSession } from "../../workers/use-run-session.ts";
import { tooLarge } from "./too-large.ts";

/** Columns of which a run may have several. */
const SEVERAL: readonly Role[] = ["fanRpm", "probe"];

/**
 * A dropped log as it is read in the browser: its columns, its cards, its loads, how its fan was driven.
 * @param onFan is told how the fan was driven by the log
 */
export function useReadLog(file: File, onFan: (drive: FanDrive) => void) {
  const session = useRunSession();
  const [share, setShare] = useState(0);
  const [view, setView] = useState<RunView | null>(null);
  const [problem, setProblem] = useState<ProblemDetail | null>(null);
  const [cards, setCards] = useState<CardChoice[]>([]);
  const [loads, setLoads] = useState<LoadInLog[]>([]);
  const [taken, setTaken] = useState<readonly number[]>([]);
  const [isJudged, setJudged] = useState(false);
  const [fan, setFan] = useState<FanDrive | null>(null);
  const [mapping, setMapping] = useState<Mapping>([]);
  const [interval, setInterval] = useState("");
  const [findChoice] = api.useHeaderChoiceMutation();

  const lookForCards = async (): Promise<void> => {
    const found = await session?.limited((remote) => remote.cards());
    if (found && "ok" in found) setCards(found.ok);
  };
  const settle = async (map: Mapping, intervalS: number | null): Promise<void> => {
    if (!session) return;
    const answer = await session.limited((remote) =>
      remote.settle({ map: map.map(({ header, role }) => [role, header] as const), intervalS: intervalS ?? undefined }),
    );
    if ("problem" in answer) {
      setProblem(answer.problem);
      if (answer.problem.code === "which-card") await lookForCards();
      return;
    }
    setJudged(false);
    startTransition(() => setView(answer.ok));
    setProblem(null);
    const judged = await session.limited((remote) => remote.analyse({}));
    const found = "ok" in judged ? (judged.ok.loads ?? []) : [];
    const drive = ("ok" in judged && judged.ok.fanDrive) || null;
    setFan(drive);
    if (drive) onFan(drive);
    setLoads(found);
    setTaken(found.flatMap((load) => (load.chosen ? [load.index] : [])));
    setJudged(true);
  };
  const settleAs = (map: Mapping, intervalS: number | null): void => {
    setMapping(map);
    void settle(map, intervalS);
  };

  useEffect(() => {
    if (!session) return;
    const refused = tooLarge(file);
    if (refused) {
      setProblem(refused);
      return;
    }
    void (async () => {
      const told = Comlink.proxy((done: number) => setShare(done));
      const opened = await session.limited((remote) => remote.openFile(file, told));
      if ("problem" in opened) return setProblem(opened.problem);
      const known = (await findChoice({ headers: opened.ok.headers })).data?.mapping ?? [];
      setMapping(known);
      await settle(known, null);
    })();
    // A file is read once per session, whatever else changes.
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [session, file]);

  return {
    share,
    view,
    problem,
    cards,
    loads,
    taken,
    setTaken,
    isJudged,
    fan,
    mapping,
    /** Seconds between rows, as typed. */
    interval,
    setInterval,
    lookForCards,
    readAgain: () => void settle(mapping, numberOrNull(interval)),
    chooseCard: (map: Mapping) => {
      setCards([]);
      settleAs(map, null);
    },
    setRole: (header: string, role: Role | null) => {
      const others = (view?.columns ?? []).filter(
        (column) => column.header !== header && (role === null || column.role !== role || SEVERAL.includes(role)),
      );
      const next = [...others.map((column) => ({ header: column.header, role: column.role })), { header, role }];
      settleAs(next, numberOrNull(interval));
    },
  };
}

export type ReadLog = ReturnType<typeof useReadLog>;
