import { chat, getPool, inTransaction } from "@/db";
import { tryChat } from "@/outside/chat";
import { defineUseCase, type Call } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import { outsideAddress } from "../kernel/outsideAddress";
import { noteEntry } from "../log/noteEntry";
import { ownAddress } from "../mail/ownAddress";
import { keeping } from "../office/keepPeople";
import { chatServer, sealChatToken, sealSigningKey } from "./chatServer";

const wrong = (path: string, message: string) => new Failed({ code: "invalid", data: { path, message } });
const mustKeep = (c: Call, action: string) =>
  c.must({ action: "keep people" }, { code: "not-allowed", data: { action } });

export interface ChatRoomShown {
  name: string;
  address: string;
}
export interface ChatRoomInput extends ChatRoomShown {
  /** What it is entered with; null leaves the one that is kept. */
  token: string | null;
  /** What it signs with when it says that something was pressed; null leaves the one that is kept. */
  signingKey: string | null;
}

/** The chat room there is, without its secrets, null where there is none; and the address it calls. */
export const chatRoomShown = defineUseCase(
  ["keep people"],
  async (c): Promise<{ room: ChatRoomShown | null; calls: string }> => {
    mustKeep(c, "see the chat room");
    const row = await chat.chatRoom(getPool());
    return { room: row && { name: row.name, address: row.address }, calls: `${ownAddress()}/api/chat` };
  },
);

const SHORTEST_KEY = 16;

/** Sets the chat room up, or changes it. */
export const putChatRoom = defineUseCase(["keep people"], (c, input: ChatRoomInput): Promise<null> =>
  inTransaction(async (db) => {
    await keeping(c, db, "change the chat room");
    const name = input.name.trim();
    if (name === "" || name.length > 80)
      throw wrong("Name", "Say what it is called, up to 80 characters, for example: Quillhaven chat.");
    const address = outsideAddress(input.address, "https://chat.example.org");
    const old = await chat.chatRoom(db);
    // Whoever changes where it is could otherwise have what it is entered with sent elsewhere.
    if (input.token === null && (!old || old.address !== address))
      throw wrong(
        "Token",
        old ? "It is another address: enter the token anew." : "It needs the token it is entered with.",
      );
    if (input.token?.trim() === "") throw wrong("Token", "It needs the token it is entered with.");
    // What another room has signed would be believed as this one's.
    if (input.signingKey === null && old?.address !== address)
      throw wrong("Signing key", "Say what it signs with, so that what comes from it is believed.");
    if (input.signingKey !== null && input.signingKey.length < SHORTEST_KEY)
      throw wrong(
        "Signing key",
        `It has at least ${SHORTEST_KEY} characters; a shorter one could be guessed.`,
      );
    await chat.putChatRoom(db, {
      name,
      address,
      token: input.token === null ? old!.token : sealChatToken(input.token.trim()),
      signing_key: input.signingKey === null ? old!.signing_key : sealSigningKey(input.signingKey),
    });
    await noteEntry(c.actor, { what: "chat room changed", data: { name } }, db);
    return null;
  }),
);

/** Takes the chat room away. What is to go there stands on Progress then. */
export const removeChatRoom = defineUseCase(["keep people"], (c): Promise<null> =>
  inTransaction(async (db) => {
    await keeping(c, db, "remove the chat room");
    const old = await chat.chatRoom(db);
    if (!old) throw new Failed({ code: "not-found", data: { what: "chat room", id: "" } });
    await chat.deleteChatRoom(db);
    await noteEntry(c.actor, { what: "chat room changed", data: { name: old.name } }, db);
    return null;
  }),
);

/** Whether it lets Cobble Step in. @returns why not; null where it does */
export const tryChatRoom = defineUseCase(["keep people"], async (c): Promise<{ why: string | null }> => {
  mustKeep(c, "try the chat room");
  const server = await chatServer(getPool());
  return { why: typeof server === "string" ? server : await tryChat(server) };
});
