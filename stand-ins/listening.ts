import { createServer, type IncomingMessage, type ServerResponse } from "node:http";

export interface Running {
  port: number;
  stop(): Promise<void>;
}

/** Listens on loopback; what goes wrong in an answer is said in it. */
export async function listening(
  port: number,
  answer: (req: IncomingMessage, res: ServerResponse, url: URL) => Promise<void>,
): Promise<Running> {
  const server = createServer((req, res) => {
    answer(req, res, new URL(req.url ?? "/", "http://here")).catch((e: Error) => {
      if (!res.headersSent) res.writeHead(500, { "content-type": "text/plain; charset=utf-8" });
      res.end(e.message);
    });
  });
  await new Promise<void>((resolve, reject) => {
    server.once("error", reject);
    server.listen(port, "127.0.0.1", () => resolve());
  });
  return {
    port: (server.address() as { port: number }).port,
    stop: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
}
