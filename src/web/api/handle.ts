import "server-only";
import { formProblemSentence } from "@/core/words";
import { actorOfKey, failureStatus, sentenceOf, type Failure } from "@/services";
import { openApiDocument } from "./openapi";
import { OPERATIONS, type Operation } from "./operations";

const MAX_BODY = 4 * 1024 * 1024;

/** An error as problem details (RFC 9457). */
function problem(status: number, title: string, detail: string, more: Record<string, unknown> = {}): Response {
  return new Response(JSON.stringify({ type: "about:blank", title, status, detail, ...more }), { status, headers: { "content-type": "application/problem+json" } });
}

async function refused(f: Failure): Promise<Response> {
  const problems = f.code === "refused" && f.data.code === "form" ? f.data.data.problems.map((p) => ({ path: p.path, code: p.code, message: formProblemSentence(p) })) : undefined;
  return problem(failureStatus(f), "Refused", await sentenceOf(f), { code: f.code === "refused" ? f.data.code : f.code, ...(problems ? { problems } : {}) });
}

function match(method: string, parts: readonly string[]): { operation: Operation; path: Record<string, string> } | "method" | null {
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
export async function handleApi(request: Request, parts: readonly string[]): Promise<Response> {
  if (parts.length === 1 && parts[0] === "openapi.json" && request.method === "GET") return Response.json(openApiDocument());
  // Bearer keys only: a cookie would let another site's page make calls in somebody's name.
  const key = /^Bearer (\S+)$/.exec(request.headers.get("authorization") ?? "")?.[1];
  const actor = key ? await actorOfKey(key) : null;
  if (!actor) {
    const r = problem(401, "No key", key ? "This key is not known or was taken back. Make another in Office." : "Send a key: Authorization: Bearer cst_… Keys are made in Office.", { code: "no-key" });
    r.headers.set("www-authenticate", "Bearer");
    return r;
  }
  const found = match(request.method, parts);
  if (found === null) return problem(404, "Not here", `There is nothing at /${parts.join("/")}. /api/v1/openapi.json lists what there is.`, { code: "no-route" });
  if (found === "method") return problem(405, "Not this way", `/${parts.join("/")} does not take ${request.method}.`, { code: "no-method" });
  const { operation, path } = found;
  const query = operation.query?.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (query && !query.success) return problem(422, "Not right", `${query.error.issues[0]?.path.join(".")}: ${query.error.issues[0]?.message}`, { code: "invalid" });
  let body: unknown;
  if (operation.body) {
    const text = await request.text();
    if (text.length > MAX_BODY) return problem(413, "Too large", `A body may have ${MAX_BODY} characters; this one has ${text.length}.`, { code: "too-large" });
    try {
      body = text === "" ? {} : JSON.parse(text);
    } catch {
      return problem(400, "Not JSON", "The body is not JSON.", { code: "not-json" });
    }
    const checked = operation.body.safeParse(body);
    if (!checked.success)
      return problem(422, "Not right", `${checked.error.issues[0]?.path.join(".") || "body"}: ${checked.error.issues[0]?.message}`, {
        code: "invalid", problems: checked.error.issues.slice(0, 20).map((i) => ({ path: i.path.join("."), code: i.code, message: i.message })),
      });
    body = checked.data;
  }
  const idempotencyKey = request.headers.get("idempotency-key")?.slice(0, 200) ?? null;
  const result = await operation.run(actor, { path, query: (query?.data ?? {}) as never, body: body as never, idempotencyKey });
  return result.ok ? Response.json(result.value, { status: operation.status }) : refused(result.failure);
}
