import { chat, type ChatRoomRow, type Db } from "@/db";
import type { ChatServer } from "@/outside/chat";
import { seal, unseal } from "../kernel/seal";

const TOKEN = "chat token";
const SIGNING_KEY = "chat signing key";

/** The secrets of a chat room as they are kept. */
export const sealChatToken = (token: string): Buffer => seal(TOKEN, token);
export const sealSigningKey = (key: string): Buffer => seal(SIGNING_KEY, key);

/** What a chat room signs with; null where another key sealed it. */
export const signingKeyOf = (row: ChatRoomRow): string | null => unseal(SIGNING_KEY, row.signing_key);

/** The chat room and how it is spoken to; a sentence where that cannot be told. */
export async function chatServer(db: Db): Promise<(ChatServer & { name: string }) | string> {
  const row = await chat.chatRoom(db);
  if (!row) return "There is no chat room in Office any more.";
  const token = unseal(TOKEN, row.token);
  if (token === null)
    return "What it is entered with was sealed with another SECRET_KEY: enter it anew in Office › Chat room.";
  return { name: row.name, address: row.address, token };
}
