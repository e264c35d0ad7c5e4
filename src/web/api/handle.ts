import type { ZodError } from "zod";
import { formProblemSentence } from "@/core/words";
import { actorOfKey, failureStatus, sentenceOf, type Failure } from "@/services";
import { fileHeaders } from "../fileAnswers";
import { openApiDocument } from "./openapi";
import type { Operation } from "./operation";
import { OPERATIONS } from "./operations";

/** One call as the listener read it; the body as it came, because most refusals need nothing parsed. */
export interface ApiCall {
  method: string;
  /** Path segments after /api/v1, decoded. */
  parts: readonly string[];
  search: URLSearchParams;
  authorization: string | undefined;
  idempotencyKey: string | undefined;
  body: Buffer;
}
export interface ApiAnswer {
  status: number;
  headers: Record<string, string>;
  body: string | Buffer;
}

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
      ? f.data.data.problems.map((p) => ({ path: p.path, code: p.code, message: formProblemSentence(p) }))
      : undefined;
  const status = failureStatus(f);
  const answer = problem(status, status === 503 ? "Not just now" : "Refused", await sentenceOf(f), {
    code: f.code === "refused" ? f.data.code : f.code,
    ...(problems ? { problems } : {}),
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

/** One call of the API: who asks, which operation, is the input right; then the same services as the pages. */
export async function handleApi(call: ApiCall): Promise<ApiAnswer> {
  const { method, parts } = call;
  if (parts.length === 1 && parts[0] === "openapi.json" && method === "GET")
    return json(200, openApiDocument());
  // Bearer keys only: a cookie would let another site's page make calls in somebody's name.
  const key = /^Bearer (\S+)$/.exec(call.authorization ?? "")?.[1];
  const actor = key ? await actorOfKey(key) : null;
  if (!actor) {
    const r = problem(
      401,
      "No key",
      key
        ? "This key is not known or was taken back. Make another in Office."
        : "Send a key: Authorization: Bearer cst_… Keys are made in Office.",
      { code: "no-key" },
    );
    r.headers["www-authenticate"] = "Bearer";
    return r;
  }
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
  let body: unknown;
  if (operation.body) {
    try {
      body = call.body.length === 0 ? {} : JSON.parse(call.body.toString("utf8"));
    } catch {
      return problem(400, "Not JSON", "The body is not JSON.", { code: "not-json" });
    }
  }
  const given = await operation.call(actor, {
    path,
    query: Object.fromEntries(call.search),
    body,
    bytes: call.body,
    idempotencyKey: call.idempotencyKey?.slice(0, 200) ?? null,
  });
  switch (given.kind) {
    case "invalid":
      return invalid(given.part, given.error);
    case "json":
      return given.outcome.ok ? json(operation.status, given.outcome.value) : refused(given.outcome.failure);
    case "file": {
      if (!given.outcome.ok) return refused(given.outcome.failure);
      const { file, bytes } = given.outcome.value;
      return { status: operation.status, headers: fileHeaders(file), body: bytes };
    }
  }
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
