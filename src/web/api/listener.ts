import { callerAddress, failureOf } from "@/services";
import type { IncomingMessage, ServerResponse } from "node:http";
import { pipeline } from "node:stream/promises";
import { handleApi, problem, refused, type ApiAnswer } from "./handle";

export { MAX_BODY } from "./handle";

export const API = "/api/v1";

export const isApi = (url: string): boolean =>
  url === API || url.startsWith(`${API}/`) || url.startsWith(`${API}?`);

async function answer(request: IncomingMessage): Promise<ApiAnswer> {
  const url = new URL(request.url ?? "/", "http://here");
  let parts: string[];
  try {
    parts = url.pathname.slice(API.length).split("/").filter(Boolean).map(decodeURIComponent);
  } catch {
    return problem(400, "Not an address", "The address holds a % that no letter follows.", {
      code: "bad-address",
    });
  }
  const key = request.headers["idempotency-key"];
  const told = Number(request.headers["content-length"]);
  return handleApi({
    method: request.method ?? "GET",
    parts,
    search: url.searchParams,
    authorization: request.headers.authorization,
    idempotencyKey: Array.isArray(key) ? key[0] : key,
    ifMatch: request.headers["if-match"],
    address: callerAddress() ?? request.socket.remoteAddress ?? "",
    told: Number.isFinite(told) ? told : null,
    body: request,
  });
}

function brokeOff(request: IncomingMessage, e: Error & { code?: string }): void {
  // Whoever asked has left.
  if (e.code === "ERR_STREAM_PREMATURE_CLOSE") return;
  process.stderr.write(`${request.method} ${request.url}: ${e.stack ?? String(e)}\n`);
}

/**
 * Answers one call of the HTTP API straight on Node's server. The page server's route handlers cost several times
 * what a decision itself does, so calls do not go through it.
 */
export async function listenerApi(request: IncomingMessage, response: ServerResponse): Promise<void> {
  let a: ApiAnswer;
  try {
    a = await answer(request);
  } catch (e) {
    // The other end went away while sending.
    if (request.destroyed && !request.complete) return;
    const failure = failureOf(e);
    if (!failure)
      process.stderr.write(`${request.method} ${request.url}: ${e instanceof Error ? e.stack : String(e)}\n`);
    a = failure
      ? await refused(failure)
      : problem(
          500,
          "Our mistake",
          "Something went wrong here. Nothing of this call was kept; it may be sent again.",
          { code: "internal" },
        );
  }
  const body = typeof a.body === "string" ? Buffer.from(a.body) : null;
  // What is left of a body that was too long is not read; the connection cannot be used again.
  if (!request.complete) response.setHeader("connection", "close");
  response.writeHead(a.status, {
    ...a.headers,
    ...(body ? { "content-length": body.length } : {}),
    "cache-control": "no-store",
    "x-content-type-options": "nosniff",
    "content-security-policy":
      a.headers["content-security-policy"] ?? "default-src 'none'; frame-ancestors 'none'",
  });
  if (request.method === "HEAD") response.end();
  else if (typeof a.body === "string") response.end(body);
  // What breaks off has been begun: the other end is told by how long it was to be, and by the connection.
  else await pipeline(a.body, response).catch((e: Error) => brokeOff(request, e));
}
