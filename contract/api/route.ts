import * as v from "valibot";

type Schema = v.GenericSchema;

/** What is no JSON: a picture, a file to keep, a stream of events. */
export interface Media {
  readonly media: string;
}
export const media = (type: string): Media => ({ media: type });

/** Everything that was read may be another after it. */
export const EVERYTHING = "everything";

interface Told {
  /** What it answers; null for nothing. */
  readonly answers: Schema | Media | null;
  /** What may stand after the question mark, each a schema of its text. */
  readonly queries?: v.ObjectEntries;
}

interface Changing extends Told {
  /** Its body, as JSON. */
  readonly takes?: Schema;
  /** Or the parts of a form: blobs are files, texts go as they are, everything else as JSON. */
  readonly form?: v.ObjectEntries;
  /** Or a file as it is, of this type. */
  readonly file?: string;
  /** The read that is answered with the same: its newest answer is this one. */
  readonly fills?: string;
  /** The reads that may be another after it. */
  readonly stale?: readonly string[] | typeof EVERYTHING;
}

/** One line of the API. Server, description, page and its cache are made of it. */
export interface Wire extends Changing {
  readonly method: "get" | "post" | "put";
  /** Below `/api`, with parameters as `:name`. */
  readonly path: string;
  /** What it does, for the description. */
  readonly does: string;
  /** Adds something, under a key by which it is known when it is sent again. */
  readonly adds?: boolean;
  /** Reads only, though it sends a body. */
  readonly reads?: boolean;
  /** By what an answer is known to be newer than another: its number, or the length of its list. */
  readonly newest?: string;
  /** The field of its answer that is its parameter: what fills it need not be told of which thing it is. */
  readonly idIn?: string;
}

export type WireTable = Readonly<Record<string, Wire>>;

export const get = <const P extends string, const M extends Told & Pick<Wire, "newest" | "idIn">>(
  path: P,
  does: string,
  more: M,
) => ({ method: "get" as const, path, does, ...more });

export const post = <const P extends string, const M extends Changing & { reads?: boolean }>(
  path: P,
  does: string,
  more: M,
) => ({ method: "post" as const, path, does, ...more });

/** Adds something; sent again with its key it adds nothing more. Answered with 201. */
export const add = <const P extends string, const M extends Changing>(path: P, does: string, more: M) => ({
  method: "post" as const,
  adds: true as const,
  path,
  does,
  ...more,
});

export const put = <const P extends string, const M extends Changing>(path: P, does: string, more: M) => ({
  method: "put" as const,
  path,
  does,
  ...more,
});

const Removed = v.object({ removed: v.optional(v.boolean("Give true or false."), false) });

/** The two-way switch that everything removable has at `…/removed`. */
export const removable = <const P extends string, const M extends Omit<Changing, "takes">>(
  path: P,
  does: string,
  more: M,
) => put(`${path}/removed` as const, does, { ...more, takes: Removed });

type Names<P extends string> = P extends `${string}:${infer Name}/${infer Rest}`
  ? Name | Names<Rest>
  : P extends `${string}:${infer Name}`
    ? Name
    : never;

/** What nobody changes, all the way down. */
export type Fixed<T> = T extends string | number | boolean | null | undefined | Blob
  ? T
  : { readonly [K in keyof T]: Fixed<T[K]> };

export type ParamsOf<R extends Wire> = { readonly [K in Names<R["path"]>]: string };
type Output<E extends v.ObjectEntries> = v.InferOutput<v.ObjectSchema<E, undefined>>;
type Input<E extends v.ObjectEntries> = v.InferInput<v.ObjectSchema<E, undefined>>;
export type QueryOf<R extends Wire> = R["queries"] extends v.ObjectEntries ? Output<R["queries"]> : unknown;
type TextParts<F extends v.ObjectEntries> = {
  [K in keyof F as v.InferInput<F[K]> extends Blob | undefined ? never : K]: F[K];
};
/** What a handler is given of the body: files lie beside it. */
export type BodyOf<R extends Wire> = R["takes"] extends Schema
  ? v.InferOutput<R["takes"]>
  : R["form"] extends v.ObjectEntries
    ? Output<TextParts<R["form"]>>
    : undefined;
export type AnswerOf<R extends Wire> = R["answers"] extends Schema ? v.InferOutput<R["answers"]> : undefined;

type Sent<R extends Wire> = (R["takes"] extends Schema
  ? { readonly body: Fixed<v.InferInput<R["takes"]>> }
  : R["form"] extends v.ObjectEntries
    ? { readonly form: Fixed<Input<R["form"]>> }
    : R["file"] extends string
      ? { readonly body: Blob }
      : unknown) &
  (R["queries"] extends v.ObjectEntries ? Fixed<Input<R["queries"]>> : unknown);

/** Parameters of what it fills count too: a change says of which thing it changes a part. */
type AllNames<R extends Wire, T> =
  | Names<R["path"]>
  | (R["fills"] extends keyof T
      ? T[R["fills"]] extends Wire & { idIn: string }
        ? never
        : T[R["fills"]] extends Wire
          ? Names<T[R["fills"]]["path"]>
          : never
      : never);
type IsOne<U, V = U> = [U] extends [never] ? false : U extends unknown ? ([V] extends [U] ? true : false) : never;

/** What a page calls it with: nothing, the one id, the body alone, or all of it by name. */
export type CallOf<R extends Wire, T> =
  unknown extends Sent<R>
    ? [AllNames<R, T>] extends [never]
      ? void
      : IsOne<AllNames<R, T>> extends true
        ? string
        : { readonly [K in AllNames<R, T>]: string }
    : [AllNames<R, T>] extends [never]
      ? Sent<R> extends { readonly body: infer B }
        ? B
        : Sent<R>
      : { readonly [K in AllNames<R, T>]: string } & Sent<R>;

export const paramsIn = (path: string): string[] => [...path.matchAll(/:(\w+)/g)].map(([, name]) => name as string);
export const isMedia = (answers: Wire["answers"]): answers is Media => answers !== null && "media" in answers;

/** What a part of a form travels as. */
export function partOf(schema: Schema): "file" | "text" | "json" {
  const inner = "wrapped" in schema ? (schema.wrapped as Schema) : schema;
  return inner.type === "blob" ? "file" : inner.type === "string" ? "text" : "json";
}

/** Where a thing stands, to be linked to. @throws RangeError where a parameter is missing */
export const urlOf = <R extends Wire>({ path }: R, params: ParamsOf<R>): string => `/api${pathOf(path, params)}`;

export const pathOf = (path: string, params: Readonly<Record<string, unknown>>): string =>
  path.replace(/:(\w+)/g, (_, name: string) => {
    const value = params[name];
    if (typeof value !== "string") throw new RangeError(`The path has a “:${name}” that was not given.`);
    return encodeURIComponent(value);
  });

/** How many faults of an answer are told at once. */
const MOST_FAULTS = 5;

/** Where an answer is not as its line says: a field that is wrong, missing, or said nowhere. @returns empty where it is */
export function faultsOfAnswer(route: Wire, json: unknown): string[] {
  const { answers } = route;
  if (answers === null || isMedia(answers)) return json === undefined ? [] : ["nothing was to be answered"];
  const read = v.safeParse(answers, json);
  const faults = read.success
    ? unsaid(json, read.output, "")
    : read.issues.map((issue) => `${v.getDotPath(issue) ?? ""}: ${issue.message}`);
  return faults.slice(0, MOST_FAULTS).map((fault) => `${route.method} ${route.path}: ${fault}`);
}

/** Fields that nobody declared. */
function unsaid(json: unknown, read: unknown, where: string): string[] {
  if (typeof json !== "object" || json === null || typeof read !== "object" || read === null) return [];
  return Object.entries(json).flatMap(([name, value]) =>
    name in read ? unsaid(value, read[name as never], `${where}.${name}`) : [`${where}.${name} is said nowhere`],
  );
}
