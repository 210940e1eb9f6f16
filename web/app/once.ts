import { nanoid } from "@reduxjs/toolkit";
import type { FetchArgs, FetchBaseQueryError } from "@reduxjs/toolkit/query";

const KEY = "algidus-unanswered";
/** After that long, the same again is meant as another. */
const MEANT_AGAIN_MS = 10 * 60 * 1000;

type Kept = Record<string, { key: string; at: number }>;

function stored(): Kept {
  try {
    return JSON.parse(sessionStorage.getItem(KEY) ?? "{}") as Kept;
  } catch {
    return {};
  }
}

function store(all: Kept): void {
  try {
    sessionStorage.setItem(KEY, JSON.stringify(all));
  } catch {
    // A full or forbidden store only means that a lost answer may add something twice.
  }
}

/** What is added, in words: the same content to the same place is the same addition as long as it has no answer. */
function contentOf({ url, body }: FetchArgs): string {
  const content =
    body instanceof FormData
      ? [...body].map(([name, value]) =>
          typeof value === "string" ? [name, value] : [name, value.name, value.size, value.lastModified],
        )
      : body;
  return JSON.stringify([url, content ?? null]);
}

const hasAnswer = (error: FetchBaseQueryError | undefined): boolean =>
  error === undefined || typeof error.status === "number";

/**
 * Sends an addition under a key by which the server knows it again; sent again by hand after its answer was lost, also after a reload of
 * the page, it has the same key and is added once.
 */
export async function sendOnce<T extends { error?: FetchBaseQueryError | undefined }>(
  request: FetchArgs,
  send: (request: FetchArgs) => T | PromiseLike<T>,
): Promise<T> {
  const content = contentOf(request);
  const before = stored()[content];
  const { key, at } = before && Date.now() - before.at < MEANT_AGAIN_MS ? before : { key: nanoid(), at: Date.now() };
  store({ ...stored(), [content]: { key, at } });
  const answer = await send({ ...request, headers: { "Idempotency-Key": key } });
  if (hasAnswer(answer.error)) {
    const { [content]: _answered, ...others } = stored();
    store(others);
  }
  return answer;
}
