import type { z } from "zod";
import { ok, type Actor, type OpenedFile, type Outcome, type Spooled } from "@/services";

/** A call as it came in, before its query and body are held against the operation's schemas. */
export interface RawInput {
  path: Readonly<Record<string, string>>;
  query: Readonly<Record<string, string>>;
  /** Parsed JSON, or nothing. */
  body: unknown;
  /** The body as it came, for operations that take a file; else null. */
  file: Spooled | null;
  idempotencyKey: string | null;
  /** The version the caller saw, of `If-Match`; "*" for whatever is there. */
  ifMatch: string | null;
}
/** What an operation gives: JSON, a file, or the first thing wrong with what was sent. */
export type Given =
  | { kind: "json"; outcome: Outcome<unknown> }
  | { kind: "file"; outcome: Outcome<OpenedFile> }
  | { kind: "invalid"; part: "query" | "body"; error: z.ZodError };

interface About {
  id: string;
  method: "GET" | "POST" | "PUT" | "PATCH" | "DELETE";
  /** With {names} for the parts that vary. */
  path: string;
  summary: string;
  status: number;
}
export interface Operation extends About {
  query?: z.ZodObject;
  body?: z.ZodType;
  response?: z.ZodType;
  idempotent?: true;
  /** Asks for `If-Match`: nobody writes over what they have not seen. */
  matches?: true;
  /** Bytes instead of JSON: as the body, or as the answer. */
  carries?: "bytes in" | "bytes out";
  example?: { body?: unknown; response?: unknown };
  call(actor: Actor, input: RawInput): Promise<Given>;
}

type OutputOf<S extends z.ZodType | undefined> = S extends z.ZodType ? z.output<S> : undefined;
interface Input<Q extends z.ZodObject | undefined, B extends z.ZodType | undefined> {
  path(name: string): string;
  query: OutputOf<Q>;
  body: OutputOf<B>;
  file: Spooled | null;
  idempotencyKey: string | null;
  ifMatch: string | null;
}
interface Spec<
  Q extends z.ZodObject | undefined,
  B extends z.ZodType | undefined,
  R extends z.ZodType,
> extends About {
  query?: Q;
  body?: B;
  response: R;
  idempotent?: true;
  matches?: true;
  /** Brings what was sent in an older format up to date, before it is held against the schema. */
  lift?: (body: unknown) => unknown;
  example: { response: z.input<R> } & (B extends z.ZodType ? { body: z.input<B> } : unknown);
  /** What it gives is held to the response's schema by the compiler. */
  run(actor: Actor, input: Input<Q, B>): Promise<Outcome<z.input<R>>>;
}

/** Parses query and body and hands them on, typed by their schemas. */
function read<Q extends z.ZodObject | undefined, B extends z.ZodType | undefined>(
  schemas: { query?: Q; body?: B; lift?: (body: unknown) => unknown },
  raw: RawInput,
): { ok: true; input: Input<Q, B> } | { ok: false; given: Given } {
  const query = schemas.query?.safeParse(raw.query);
  if (query && !query.success)
    return { ok: false, given: { kind: "invalid", part: "query", error: query.error } };
  const body = schemas.body?.safeParse(schemas.lift ? schemas.lift(raw.body) : raw.body);
  if (body && !body.success)
    return { ok: false, given: { kind: "invalid", part: "body", error: body.error } };
  return {
    ok: true,
    input: {
      path: (name) => raw.path[name] ?? "",
      query: query?.data as OutputOf<Q>,
      body: body?.data as OutputOf<B>,
      file: raw.file,
      idempotencyKey: raw.idempotencyKey,
      ifMatch: raw.ifMatch,
    },
  };
}

/** An operation that takes and gives JSON. */
export function define<
  R extends z.ZodType,
  Q extends z.ZodObject | undefined = undefined,
  B extends z.ZodType | undefined = undefined,
>({ run, ...spec }: Spec<Q, B, R>): Operation {
  return {
    ...spec,
    async call(actor, raw) {
      const r = read<Q, B>(spec, raw);
      return r.ok ? { kind: "json", outcome: await run(actor, r.input) } : r.given;
    },
  };
}

/** An operation that takes a file as its body. */
export function defineUpload<R extends z.ZodType, Q extends z.ZodObject>({
  run,
  ...spec
}: Omit<Spec<Q, undefined, R>, "body" | "run"> & {
  run(
    actor: Actor,
    input: Omit<Input<Q, undefined>, "file"> & { file: Spooled },
  ): ReturnType<Spec<Q, undefined, R>["run"]>;
}): Operation {
  return {
    ...define<R, Q, undefined>({
      ...spec,
      run(actor, { file, ...input }) {
        if (!file) throw new Error(`${spec.id} was called without the file it takes`);
        return run(actor, { ...input, file });
      },
    }),
    carries: "bytes in",
  };
}

/** An operation that gives a file. */
export function defineDownload({
  run,
  ...about
}: About & {
  run(actor: Actor, input: Input<undefined, undefined>): Promise<Outcome<OpenedFile>>;
}): Operation {
  return {
    ...about,
    carries: "bytes out",
    async call(actor, raw) {
      const r = read<undefined, undefined>({}, raw);
      return r.ok ? { kind: "file", outcome: await run(actor, r.input) } : r.given;
    },
  };
}

export const map = <T, U>(o: Outcome<T>, f: (v: T) => U): Outcome<U> => (o.ok ? ok(f(o.value)) : o);
