import { join } from "node:path";
import { freePort } from "./cluster.mjs";

/** Who has an account in the chat room. */
const ACCOUNTS = [
  "anselm.kerr",
  "aoife.lanigan",
  "bridie.okafor",
  "dermot.vane",
  "fintan.galloway",
  "lucia.penrose",
  "maeve.dunlea",
  "orla.fennimore",
  "ruben.aske",
  "tobias.marrin",
  "tomas.wexley",
];

/**
 * Where the stand-ins listen, as the programs read it from their environment.
 * @param folder in which each keeps what it has
 * @param web the port of the web server, which the chat room calls
 */
export async function standIns(folder, web, first) {
  const post = await freePort(web + 1);
  const chat = await freePort(Math.max(web + 2, post + 1));
  const shelf = await freePort(chat + 1);
  const print = await freePort(shelf + 1);
  return {
    POST_FOLDER: join(folder, "post"),
    POST_SMTP: String(await freePort(first)),
    POST_IMAP: String(await freePort(first + 18)),
    POST_PAGE: String(post),
    CHAT_FOLDER: join(folder, "chat"),
    CHAT_PORT: String(chat),
    CHAT_TELLS: `http://127.0.0.1:${web}/api/chat`,
    CHAT_TOKEN: "quillhaven",
    CHAT_KEY: "quillhaven-quillhaven",
    CHAT_ACCOUNTS: ACCOUNTS.join(),
    CHAT_ROOMS: "acquisitions,front desk",
    SHELF_FOLDER: join(folder, "shelf"),
    SHELF_PORT: String(shelf),
    SHELF_ACCOUNT: "cobble",
    SHELF_PASSWORD: "quillhaven",
    PRINT_FOLDER: join(folder, "print-room"),
    PRINT_PORT: String(print),
    PRINT_TOKEN: "quillhaven",
    STAND_INS: [
      `Post|http://localhost:${post}|A mail server with everybody's mailboxes: read what Cobble Step has sent, answer it, and write as anybody.`,
      `Chat room|http://localhost:${chat}|Rooms and messages to one person: read what Cobble Step says and asks there, and press answers as anybody.`,
      `File shelf|http://localhost:${shelf}|Folders reached by WebDAV: look at what steps have brought there.`,
      `Print room|http://localhost:${print}|Prints what steps bring there, and shows it; it can be told to jam, or to print twice.`,
    ].join("\n"),
  };
}

/** The programs, by the names they are known by. */
export const STAND_INS = [
  ["Post", "dist/stand-ins/post/main.cjs"],
  ["chat room", "dist/stand-ins/chat/main.cjs"],
  ["file shelf", "dist/stand-ins/shelf/main.cjs"],
  ["print room", "dist/stand-ins/print-room/main.cjs"],
];
