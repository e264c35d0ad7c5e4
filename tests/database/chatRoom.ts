import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chat } from "@/db";
import { getPool } from "@/db";
import { pressedInChat, sealChatToken, sealSigningKey, type PressAnswer } from "@/services";
import { startChat, type RunningChat } from "../../stand-ins/chat/chat";
import type { Kept, Message } from "../../stand-ins/chat/message";
import { signed, type Press } from "../../stand-ins/chat/press";

export const SIGNING_KEY = "a key of the test's own";

export interface TestChat extends RunningChat {
  /** What somebody reads, the newest first. */
  of(account: string): Kept[];
  /** Presses an answer, as the room tells it, and shows what it is told then. */
  press(account: string, message: Kept, answer: string, note?: string): Promise<PressAnswer>;
}

/** A chat room of a test's own, set up in Office. */
export async function openChat(accounts: string[], rooms: string[] = []): Promise<TestChat> {
  const folder = mkdtempSync(join(tmpdir(), "chat-"));
  const running = await startChat({
    folder,
    port: 0,
    accounts,
    rooms,
    token: "token",
    signingKey: SIGNING_KEY,
    tells: "http://127.0.0.1:9/api/chat",
  });
  await chat.putChatRoom(getPool(), {
    name: "Test chat",
    address: `http://127.0.0.1:${running.port}`,
    token: sealChatToken("token"),
    signing_key: sealSigningKey(SIGNING_KEY),
  });
  return {
    ...running,
    of: (account) => running.messages.of({ account }),
    async press(account, message, answer, note = "") {
      const said = await callOf({ message: message.id, account, answer, note });
      if (said.status === 200 && said.message) running.messages.replace(message.id, said.message as Message);
      return said;
    },
    async stop() {
      await running.stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** A call as the room makes it; `change` makes something else of it. */
export function callOf(
  press: Press,
  change: { key?: string; at?: number; path?: string; body?: string; headers?: Record<string, string> } = {},
): Promise<PressAnswer> {
  const body = JSON.stringify(press);
  const headers: Record<string, string> = {
    ...signed("/api/chat", body, change.key ?? SIGNING_KEY, change.at ?? Date.now()),
    ...change.headers,
  };
  return pressedInChat({
    method: "POST",
    path: change.path ?? "/api/chat",
    body: Buffer.from(change.body ?? body),
    header: (name) => headers[name] ?? null,
  });
}
