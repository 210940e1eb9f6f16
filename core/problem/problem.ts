/**
 * A refusal in words: what was wrong, where, and what to do about it.
 * The border (command line, HTTP, page) turns it into its own form; nothing else is thrown for bad input.
 */
export interface ProblemDetail {
  /** Stable machine-readable word, such as `no-header`. */
  code: string;
  /** What happened, one sentence. */
  what: string;
  /** The file, row or field it concerns. */
  where?: string | undefined;
  /** What to do next, one sentence. */
  remedy: string;
}

export class Problem extends Error {
  readonly code: string;
  readonly what: string;
  readonly where: string | undefined;
  readonly remedy: string;

  constructor(detail: ProblemDetail) {
    super(detail.where ? `${detail.where}: ${detail.what} ${detail.remedy}` : `${detail.what} ${detail.remedy}`);
    this.name = "Problem";
    this.code = detail.code;
    this.what = detail.what;
    this.where = detail.where;
    this.remedy = detail.remedy;
  }

  detail(): ProblemDetail {
    return { code: this.code, what: this.what, where: this.where, remedy: this.remedy };
  }
}

/** Something the reader met and coped with, which the person should know. */
export interface Notice {
  code: string;
  text: string;
}
