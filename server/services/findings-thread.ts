import type { FindingsAsked, FindingsView } from "#contract";
import { type Cause, Problem } from "#core";
import type { SimilarGain } from "#core/decide/index.ts";
import type { Store } from "../db/open.ts";
import { Threads } from "../threads.ts";
import { type Changed, type Read, readFindings, similarGain } from "./findings.ts";

export type FindingsQuestion =
  | { kind: "findings"; asked: FindingsAsked }
  | { kind: "similar"; serviceId: string; cause: Cause };
export interface FindingsRequest {
  question: FindingsQuestion;
  file: string;
  changed: Changed;
}
type Answer = FindingsView | SimilarGain | null;

/** Thousands of results with some columns take a twentieth of that. */
const LONGEST_MS = 30_000;

export function answerQuestion(
  read: Read,
  { question, changed }: Pick<FindingsRequest, "question" | "changed">,
): Promise<Answer> {
  return question.kind === "findings"
    ? readFindings(read, question.asked, changed)
    : similarGain(read, question.serviceId, question.cause, changed);
}

/** What was found over all services, read and worked out in one thread, which keeps what it read until something changes. */
export class FindingsThread {
  readonly #threads: Threads<FindingsRequest, Answer>;
  #changed = new Set<string>();

  constructor(private readonly store: Store) {
    this.#threads = new Threads({
      entry: "findings-worker",
      threads: 1,
      longestMs: LONGEST_MS,
      here: (request) => answerQuestion(store, request),
      tooSlow: (seconds) =>
        new Problem({
          code: "too-slow",
          what: `Working this out took more than ${seconds} s and was stopped.`,
          remedy: "Ask with fewer columns, or of a part of the results.",
        }),
    });
  }

  /** These services' lines were worked out anew, in a change that was made. */
  changed(ids: readonly string[]): void {
    for (const id of ids) this.#changed.add(id);
  }

  /** @throws Problem `too-slow` */
  run(question: Extract<FindingsQuestion, { kind: "findings" }>): Promise<FindingsView>;
  run(question: Extract<FindingsQuestion, { kind: "similar" }>): Promise<SimilarGain | null>;
  async run(question: FindingsQuestion): Promise<Answer> {
    const services = this.#changed;
    this.#changed = new Set();
    try {
      return await this.#threads.run({
        question,
        file: this.store.file,
        changed: { services: [...services], epoch: this.store.changesApart() },
      });
    } catch (error) {
      this.changed([...services]);
      throw error;
    }
  }

  close(): Promise<void> {
    return this.#threads.close();
  }
}
