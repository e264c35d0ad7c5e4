import { createServer, type IncomingMessage, type ServerResponse } from "node:http";
import next from "next";
import { forCaller, healthOf } from "@/services";
import { isApi, listenerApi } from "./api/listener";
import { clientAddress, trustedProxies } from "./clientAddress";
import { answerOutage } from "./outage";

/** The web process: the HTTP API on Node's own server, all pages by Next, one port. Start more on the same database as needed. */
async function main() {
  const port = Number(process.env["PORT"] ?? 3210);
  const hostname = process.env["HOST"] ?? "127.0.0.1";
  const app = next({ dev: false, dir: process.cwd(), hostname, port });
  await app.prepare();
  const pages = app.getRequestHandler();
  const answer = async (request: IncomingMessage, response: ServerResponse): Promise<void> => {
    const url = request.url ?? "";
    if (isApi(url)) return listenerApi(request, response);
    // Nothing of a page can be shown without the database; what never changes, and health itself, can.
    if (!/^\/(?:_next\/|api\/health\b|icon\.svg)/.test(url)) {
      const health = await healthOf();
      if (!health.ok && health.why !== "read-only" && health.why !== "full")
        return answerOutage(request, response, health);
    }
    return pages(request, response);
  };
  const proxies = trustedProxies();
  const server = createServer((request, response) => {
    // From here on the header says who calls, and not who they say they are.
    const address = clientAddress(request.socket.remoteAddress, request.headers["x-forwarded-for"], proxies);
    request.headers["x-forwarded-for"] = address;
    const gone = new AbortController();
    response.once("close", () => {
      if (!response.writableFinished) gone.abort();
    });
    void forCaller({ gone: gone.signal, address }, () => answer(request, response));
  });
  server.keepAliveTimeout = 65_000;
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
