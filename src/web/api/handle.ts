import type { ZodError } from "zod";
import { formProblemSentence } from "@/core/words";
import {
  actorOfKey,
  failureStatus,
  MAX_FILE_BYTES,
  sentenceOf,
  settingsNow,
  Spool,
  type Failure,
  type Spooled,
} from "@/services";
import { fileHeaders } from "../fileAnswers";
import { callPace, Pace, Slots } from "../pace";
import { FILE_WHOLE_MS, PAUSE_MS, readBody, takeBody, WHOLE_MS, type NotRead } from "../readBody";
import { openApiDocument } from "./openapi";
import type { Given, Operation } from "./operation";
import { OPERATIONS } from "./operations";

/** One call as the listener read its head; the body is read only once it is known who calls, and for what. */
export interface ApiCall {
  method: string;
  /** Path segments after /api/v1, decoded. */
  parts: readonly string[];
  search: URLSearchParams;
  authorization: string | undefined;
  idempotencyKey: string | undefined;
  ifMatch: string | undefined;
  address: string;
  /** How long the body says it is; null where it does not say. */
  told: number | null;
  body: AsyncIterable<Uint8Array>;
}
export interface ApiAnswer {
  status: number;
  headers: Record<string, string>;
  /** A file is read as it is sent; its headers say how long it is. */
  body: string | AsyncIterable<Buffer>;
}

export const MAX_BODY = 4 * 1024 * 1024;

const json = (status: number, value: unknown): ApiAnswer => ({
  status,
  headers: { "content-type": "application/json; charset=utf-8" },
  body: JSON.stringify(value),
});

/** An error as problem details (RFC 9457). */
export function problem(
  status: number,
  title: string,
  detail: string,
  more: Record<string, unknown> = {},
): ApiAnswer {
  return {
    status,
    headers: { "content-type": "application/problem+json" },
    body: JSON.stringify({ type: "about:blank", title, status, detail, ...more }),
  };
}

export async function refused(f: Failure): Promise<ApiAnswer> {
  const problems =
    f.code === "refused" && f.data.code === "form"
      ? f.data.data.problems.map((p) => ({
          path: p.path,
          code: p.code,
          message: formProblemSentence(p),
          ...(p.pass ? { pass: p.pass } : {}),
        }))
      : undefined;
  const status = failureStatus(f);
  const answer = problem(status, status === 503 ? "Not just now" : "Refused", await sentenceOf(f), {
    code: f.code === "refused" ? f.data.code : f.code,
    ...(problems ? { problems } : {}),
    ...(f.code === "refused" && f.data.code === "read-anew" ? { changes: f.data.data.changes } : {}),
  });
  if (status === 503) answer.headers["retry-after"] = "5";
  return answer;
}

function match(
  method: string,
  parts: readonly string[],
): { operation: Operation; path: Record<string, string> } | "method" | null {
  let known = false;
  for (const operation of OPERATIONS) {
    const shape = operation.path.slice(1).split("/");
    if (shape.length !== parts.length) continue;
    const path: Record<string, string> = {};
    const fits = shape.every((s, i) => {
      const name = /^\{(\w+)\}$/.exec(s)?.[1];
      if (name) path[name] = parts[i]!;
      return name !== undefined || s === parts[i];
    });
    if (!fits) continue;
    known = true;
    if (operation.method === method) return { operation, path };
  }
  return known ? "method" : null;
}

/** Tries with keys nobody knows, from one address. */
const STRANGERS = new Pace({ burst: 30, perSecond: 0.5 });
/** Calls by one key; made with the first, because what only reads the operations has no settings. */
let keys: Pace | null = null;
const paceOfKeys = (): Pace => (keys ??= new Pace(callPace(settingsNow().callsPerMinute)));
/** Bodies being read at the same time. */
const BODIES = new Slots(6, 48);

/** Bytes; Node's server takes no more of a body than its head said. */
const SHORT_BODY = 16 * 1024;

const MAX_KEY = 200;

/** The version an `If-Match` names (RFC 9110, section 13.1.1), or "*"; null for none, or what is no version. */
const readMatch = (header: string | undefined): string | null =>
  /^\s*(\*|"(\d{1,18})")\s*$/
    .exec(header ?? "")
    ?.slice(1)
    .reverse()
    .find((x) => x !== undefined) ?? null;

const tooFast = async (seconds: number): Promise<ApiAnswer> => {
  const r = await refused({ code: "too-fast", data: { seconds } });
  r.headers["retry-after"] = String(seconds);
  return r;
};

/**
 * One call of the API: who asks, how often, which operation; then the body, is the input right, and the same services
 * as the pages. Nothing is read of what a stranger sends.
 */
export async function handleApi(call: ApiCall): Promise<ApiAnswer> {
  const { method, parts } = call;
  if (parts.length === 1 && parts[0] === "openapi.json" && method === "GET")
    return json(200, openApiDocument());
  // Bearer keys only: a cookie would let another site's page make calls in somebody's name.
  const key = /^Bearer (\S+)$/.exec(call.authorization ?? "")?.[1];
  const actor = key ? await actorOfKey(key) : null;
  if (!actor) {
    const wait = STRANGERS.take(call.address, performance.now());
    return wait > 0 ? tooFast(wait) : noKey(key !== undefined);
  }
  const wait = paceOfKeys().take(actor.via.kind === "key" ? actor.via.id : actor.id, performance.now());
  if (wait > 0) return tooFast(wait);
  const found = match(method, parts);
  if (found === null)
    return problem(
      404,
      "Not here",
      `There is nothing at /${parts.join("/")}. /api/v1/openapi.json lists what there is.`,
      { code: "no-route" },
    );
  if (found === "method")
    return problem(405, "Not this way", `/${parts.join("/")} does not take ${method}.`, {
      code: "no-method",
    });
  const { operation, path } = found;
  if ((call.idempotencyKey?.length ?? 0) > MAX_KEY)
    return problem(422, "Not right", `An Idempotency-Key has at most ${MAX_KEY} characters.`, {
      code: "invalid",
    });
  const seen = readMatch(call.ifMatch);
  if (operation.matches && seen === null)
    // RFC 6585, section 3: so that nobody writes over what they have not seen.
    return problem(
      428,
      "Which version is meant",
      'Send the version you saw, for example If-Match: "1234", or * for whatever is there.',
      { code: "no-version" },
    );
  const go = async (body: unknown, file: Spooled | null) =>
    answerTo(
      operation,
      await operation.call(actor, {
        path,
        query: Object.fromEntries(call.search),
        body,
        file,
        idempotencyKey: call.idempotencyKey ?? null,
        ifMatch: seen,
      }),
    );
  if (operation.carries === "bytes in") return withFile(call, actor.id, (file) => go(undefined, file));
  return operation.body ? withJson(call, actor.id, (body) => go(body, null)) : go(undefined, null);
}

function answerTo(operation: Operation, given: Given): ApiAnswer | Promise<ApiAnswer> {
  switch (given.kind) {
    case "invalid":
      return invalid(given.part, given.error);
    case "json":
      return given.outcome.ok ? json(operation.status, given.outcome.value) : refused(given.outcome.failure);
    case "file": {
      if (!given.outcome.ok) return refused(given.outcome.failure);
      const { file, parts } = given.outcome.value;
      return { status: operation.status, headers: fileHeaders(file), body: parts };
    }
  }
}

function noKey(sent: boolean): ApiAnswer {
  const r = problem(
    401,
    "No key",
    sent
      ? "This key is not known or was taken back. Make another in Office."
      : "Send a key: Authorization: Bearer cst_… Keys are made in Office.",
    { code: "no-key" },
  );
  r.headers["www-authenticate"] = "Bearer";
  return r;
}

/** Goes on with what the body says; nothing of a body is an empty object. */
function withJson(call: ApiCall, person: string, go: (body: unknown) => Promise<ApiAnswer>) {
  return reading(call, person, MAX_BODY, async () => {
    const read = await readBody(call.body, { most: MAX_BODY, pause: PAUSE_MS, whole: WHOLE_MS });
    if (!read.ok) return read;
    let body: unknown;
    try {
      body = read.bytes.length === 0 ? {} : JSON.parse(read.bytes.toString("utf8"));
    } catch {
      return async () => problem(400, "Not JSON", "The body is not JSON.", { code: "not-json" });
    }
    return () => go(body);
  });
}

/** Goes on with the body as a file, which is on the disk meanwhile and not in memory. */
async function withFile(call: ApiCall, person: string, go: (file: Spooled) => Promise<ApiAnswer>) {
  const spool = await Spool.begin();
  try {
    return await reading(call, person, MAX_FILE_BYTES, async () => {
      const limits = { most: MAX_FILE_BYTES, pause: PAUSE_MS, whole: FILE_WHOLE_MS };
      const read = await takeBody(call.body, limits, (part) => spool.take(part));
      return read.ok ? () => go(spool.whole()) : read;
    });
  } finally {
    await spool.drop();
  }
}

/** Reads a body where there is room for it, says why it could not be, and goes on with what was read. */
async function reading(
  { told }: ApiCall,
  person: string,
  most: number,
  read: () => Promise<NotRead | (() => Promise<ApiAnswer>)>,
): Promise<ApiAnswer> {
  const tooLarge = () => problem(413, "Too large", `A body may have ${most} bytes.`, { code: "too-large" });
  if ((told ?? 0) > most) return tooLarge();
  // A short one takes no room worth keeping: a program that sends several calls at once is not refused for it.
  const short = told !== null && told <= SHORT_BODY;
  const done = short ? () => undefined : BODIES.take(person);
  if (!done) return tooFast(1);
  let came: Awaited<ReturnType<typeof read>>;
  try {
    came = await read();
  } finally {
    done();
  }
  if (typeof came === "function") return came();
  return came.why === "too large"
    ? tooLarge()
    : problem(408, "Too slow", "The body did not come in time. Send it again, without pauses.", {
        code: "too-slow",
      });
}

/** What is wrong with what was sent; the first of it as a sentence. */
function invalid(part: "query" | "body", error: ZodError): ApiAnswer {
  const first = error.issues[0];
  const problems = error.issues
    .slice(0, 20)
    .map((i) => ({ path: i.path.join("."), code: i.code, message: i.message }));
  return problem(422, "Not right", `${first?.path.join(".") || part}: ${first?.message}`, {
    code: "invalid",
    ...(part === "body" ? { problems } : {}),
  });
}
