import { createServer } from "node:http";
import next from "next";
import { isApi, listenerApi } from "./api/listener";

/** The web process: the HTTP API on Node's own server, all pages by Next, one port. Start more on the same database as needed. */
async function main() {
  const port = Number(process.env["PORT"] ?? 3210);
  const hostname = process.env["HOST"] ?? "127.0.0.1";
  const app = next({ dev: false, dir: process.cwd(), hostname, port });
  await app.prepare();
  const pages = app.getRequestHandler();
  const server = createServer(
    (request, response) =>
      void (isApi(request.url ?? "") ? listenerApi(request, response) : pages(request, response)),
  );
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
