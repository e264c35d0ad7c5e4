import type { IncomingMessage, ServerResponse } from "node:http";
import { handleApi, problem, type ApiAnswer } from "./handle";

export const API = "/api/v1";
export const MAX_BODY = 4 * 1024 * 1024;

export const isApi = (url: string): boolean => url === API || url.startsWith(`${API}/`) || url.startsWith(`${API}?`);

/** The whole body as text; null once it is longer than allowed. */
async function bodyOf(request: IncomingMessage): Promise<string | null> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of request as AsyncIterable<Buffer>) {
    size += part.length;
    if (size > MAX_BODY) return null;
    parts.push(part);
  }
  return Buffer.concat(parts).toString("utf8");
}

async function answer(request: IncomingMessage): Promise<ApiAnswer> {
  const url = new URL(request.url ?? "/", "http://here");
  let parts: string[];
  try {
    parts = url.pathname.slice(API.length).split("/").filter(Boolean).map(decodeURIComponent);
  } catch {
    return problem(400, "Not an address", "The address holds a % that no letter follows.", { code: "bad-address" });
  }
  const body = await bodyOf(request);
  if (body === null) return problem(413, "Too large", `A body may have ${MAX_BODY} bytes.`, { code: "too-large" });
  const key = request.headers["idempotency-key"];
  return handleApi({
    method: request.method ?? "GET", parts, search: url.searchParams, authorization: request.headers.authorization,
    idempotencyKey: Array.isArray(key) ? key[0] : key, body,
  });
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
    process.stderr.write(`${request.method} ${request.url}: ${e instanceof Error ? e.stack : String(e)}\n`);
    a = problem(500, "Our mistake", "Something went wrong here. Nothing of this call was kept; it may be sent again.", { code: "internal" });
  }
  const body = Buffer.from(a.body);
  // What is left of a body that was too long is not read; the connection cannot be used again.
  if (!request.complete) response.setHeader("connection", "close");
  response.writeHead(a.status, { ...a.headers, "content-length": body.length, "cache-control": "no-store", "x-content-type-options": "nosniff" });
  response.end(request.method === "HEAD" ? undefined : body);
}
