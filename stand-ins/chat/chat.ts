import { existsSync, mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { createServer, type IncomingMessage, type ServerResponse } from "node:http";
import { join } from "node:path";
import { answerCall } from "./api";
import { FAULTS, NO_FAULTS, type Faults } from "./faults";
import { Messages } from "./messages";
import { answerPage } from "./page";

export interface Chat {
  messages: Messages;
  /** Who has an account. */
  accounts: readonly string[];
  rooms: readonly string[];
  token: string;
  signingKey: string;
  /** Where it says that something was pressed. */
  tells: string;
  faults(): Faults;
  setFaults(f: Partial<Faults>): void;
}
export interface RunningChat extends Chat {
  port: number;
  stop(): Promise<void>;
}

/** Starts the chat room of the made-up world, on loopback: an HTTP service, and pages to play it. */
export async function startChat(
  o: Pick<Chat, "accounts" | "rooms" | "token" | "signingKey" | "tells"> & { folder: string; port: number },
): Promise<RunningChat> {
  mkdirSync(o.folder, { recursive: true });
  const kept = join(o.folder, "faults.json");
  let faults: Faults = existsSync(kept) ? FAULTS.parse(JSON.parse(readFileSync(kept, "utf8"))) : NO_FAULTS;
  const chat: Chat = {
    messages: new Messages(join(o.folder, "messages.json")),
    accounts: o.accounts,
    rooms: o.rooms,
    token: o.token,
    signingKey: o.signingKey,
    tells: o.tells,
    faults: () => faults,
    setFaults(f) {
      faults = FAULTS.parse({ ...faults, ...f });
      writeFileSync(kept, JSON.stringify(faults));
    },
  };
  const server = createServer((req: IncomingMessage, res: ServerResponse) => {
    const url = new URL(req.url ?? "/", "http://chat");
    const api = url.pathname.startsWith("/api/") || url.pathname === "/openapi.json";
    (api ? answerCall(chat, req, res, url) : answerPage(chat, req, res, url)).catch((e: Error) => {
      if (!res.headersSent) res.writeHead(500, { "content-type": "text/plain; charset=utf-8" });
      res.end(e.message);
    });
  });
  await new Promise<void>((resolve, reject) => {
    server.once("error", reject);
    server.listen(o.port, "127.0.0.1", () => resolve());
  });
  const { port } = server.address() as { port: number };
  return {
    ...chat,
    port,
    stop: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
}
