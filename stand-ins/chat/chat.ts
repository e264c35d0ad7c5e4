import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { answerCall } from "./api";
import { KeptFaults } from "../keptFaults";
import { listening, type Running } from "../listening";
import { FAULTS, type Faults } from "./faults";
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
export type RunningChat = Chat & Running;

/** Starts the chat room of the made-up world, on loopback: an HTTP service, and pages to play it. */
export async function startChat(
  o: Pick<Chat, "accounts" | "rooms" | "token" | "signingKey" | "tells"> & { folder: string; port: number },
): Promise<RunningChat> {
  mkdirSync(o.folder, { recursive: true });
  const faults = new KeptFaults(join(o.folder, "faults.json"), FAULTS);
  const chat: Chat = {
    messages: new Messages(join(o.folder, "messages.json")),
    accounts: o.accounts,
    rooms: o.rooms,
    token: o.token,
    signingKey: o.signingKey,
    tells: o.tells,
    faults: () => faults.get(),
    setFaults: (f) => faults.set(f),
  };
  const running = await listening(o.port, (req, res, url) => {
    const api = url.pathname.startsWith("/api/") || url.pathname === "/openapi.json";
    return api ? answerCall(chat, req, res, url) : answerPage(chat, req, res, url);
  });
  return { ...chat, ...running };
}
