import { createServer, type IncomingMessage, type ServerResponse } from "node:http";
import next from "next";
import { forCaller, healthOf, readSettings } from "@/services";
import { isApi, listenerApi } from "./api/listener";
import { clientAddress } from "./clientAddress";
import { answerOutage } from "./outage";
import { callPace, Pace } from "./pace";
import { FILE_WHOLE_MS } from "./readBody";
import { SESSION_COOKIE } from "./cookies";

/** A head that does not come, and a body that never ends: whoever sends slowly is left. */
const HEAD_MS = 20_000;
/** What is read into memory has less, and whatever pauses has seconds: this is for the largest files. */
const REQUEST_MS = FILE_WHOLE_MS + 30_000;
/** Nothing sent to a page is longer; files have a way of their own. */
const MAX_PAGE_BODY = 5_000_000;

/** What takes files says itself how long they may be. */
const UPLOADS = /^\/api\/(?:files|sheets|open|follow)\b/;
/** What never changes, and health itself, need neither database nor limits. */
const FIXED = /^\/(?:_next\/|api\/health\b|icon\.svg)/;

const refuse = (
  request: IncomingMessage,
  response: ServerResponse,
  status: number,
  sentence: string,
  headers = {},
) => {
  response.writeHead(status, {
    "content-type": "text/plain; charset=utf-8",
    connection: "close",
    ...headers,
  });
  response.end(sentence);
  request.resume();
};

/** Who a page is asked by, as far as limits go: a browser that is signed in, else an address. */
function pacedName(request: IncomingMessage, address: string): string {
  const cookies = request.headers.cookie ?? "";
  const session = cookies.split(/;\s*/).find((c) => c.startsWith(`${SESSION_COOKIE}=`));
  return session ? session.slice(0, 80) : `address ${address}`;
}

/** The web process: the HTTP API on Node's own server, all pages by Next, one port. Start more on the same database as needed. */
async function main() {
  const read = readSettings(process.env);
  if (!read.ok) {
    process.stderr.write(`Cobble Step cannot start:\n${read.mistakes.map((m) => `- ${m}\n`).join("")}`);
    process.exit(2);
  }
  const { port, host: hostname, trustedProxies, publicUrl, callsPerMinute } = read.settings;
  const app = next({ dev: false, dir: process.cwd(), hostname, port });
  await app.prepare();
  const pages = app.getRequestHandler();
  const pace = new Pace(callPace(callsPerMinute));
  const safe = publicUrl.startsWith("https:");

  const answer = async (
    request: IncomingMessage,
    response: ServerResponse,
    address: string,
  ): Promise<void> => {
    const url = request.url ?? "";
    if (isApi(url)) return listenerApi(request, response);
    if (!FIXED.test(url)) {
      const wait = pace.take(pacedName(request, address), performance.now());
      if (wait > 0)
        return refuse(
          request,
          response,
          429,
          `More came from you than is taken at once. Go on in ${wait} s.`,
          {
            "retry-after": String(wait),
          },
        );
      if (!UPLOADS.test(url) && Number(request.headers["content-length"] ?? 0) > MAX_PAGE_BODY)
        return refuse(request, response, 413, "What was sent is longer than any page takes.");
      const health = await healthOf();
      if (!health.ok && health.why !== "read-only" && health.why !== "full")
        return answerOutage(request, response, health);
    }
    return pages(request, response);
  };
  const server = createServer((request, response) => {
    // From here on the header says who calls, and not who they say they are.
    const address = clientAddress(
      request.socket.remoteAddress,
      request.headers["x-forwarded-for"],
      trustedProxies,
    );
    request.headers["x-forwarded-for"] = address;
    // Held to the strictest by default; pages and their scripts say what else they need.
    response.setHeader(
      "content-security-policy",
      (request.url ?? "").startsWith("/_next/")
        ? "default-src 'self'"
        : "default-src 'none'; frame-ancestors 'none'",
    );
    response.setHeader("x-content-type-options", "nosniff");
    if (safe) response.setHeader("strict-transport-security", "max-age=31536000; includeSubDomains");
    const gone = new AbortController();
    response.once("close", () => {
      if (!response.writableFinished) gone.abort();
    });
    void forCaller({ gone: gone.signal, address }, () => answer(request, response, address));
  });
  server.keepAliveTimeout = 65_000;
  server.headersTimeout = HEAD_MS;
  server.requestTimeout = REQUEST_MS;
  server.listen(port, hostname);
  for (const signal of ["SIGINT", "SIGTERM"] as const)
    process.once(signal, () => {
      server.close(() => process.exit(0));
      server.closeIdleConnections();
      // Calls under way get this long to end; the streams of open pages would never end by themselves.
      setTimeout(() => process.exit(0), 1500);
    });
}
void main();
