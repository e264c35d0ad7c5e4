import { chat, type Db } from "@/db";
import { sealChatToken, sealSigningKey } from "@/services";

/** Who has tied an account of the chat room; the others can, with the code it sends them. */
const TIED = [
  "anselm.kerr",
  "aoife.lanigan",
  "bridie.okafor",
  "fintan.galloway",
  "lucia.penrose",
  "maeve.dunlea",
  "orla.fennimore",
];

/** Makes the chat room, or says where it is this time; accounts are tied once, at the beginning. */
export async function putDemoChatRoom(db: Db, now: number): Promise<void> {
  const [port, token, key] = [process.env["CHAT_PORT"], process.env["CHAT_TOKEN"], process.env["CHAT_KEY"]];
  const fresh = (await chat.chatRoom(db)) === null;
  await chat.putChatRoom(db, {
    name: "Quillhaven chat",
    address: `http://127.0.0.1:${port ?? 3212}`,
    token: sealChatToken(token ?? "quillhaven"),
    signing_key: sealSigningKey(key ?? "quillhaven-quillhaven"),
  });
  if (fresh) for (const person of TIED) await chat.tieAccount(db, person, person, now);
}
