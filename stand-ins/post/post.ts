import { execFileSync } from "node:child_process";
import { mkdirSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { KeptFaults } from "../keptFaults";
import { FAULTS, type Faults } from "./faults";
import { startImap } from "./imapServer";
import { MailFolders } from "./mailFolders";
import { startPage } from "./page";
import { startSmtp } from "./smtpServer";

/** Everybody's password; the mailboxes are of a made-up world on this machine alone. */
export const PASSWORD = "quillhaven";

export interface Post {
  folders: MailFolders;
  setFaults(f: Partial<Faults>): void;
  stop(): Promise<void>;
}

const idOf = (user: string, what: "-u" | "-g"): number =>
  Number(execFileSync("id", [what, user], { encoding: "utf8" }));
const nameOf = (what: "-un" | "-gn", user?: string): string =>
  execFileSync("id", user ? [what, user] : [what], { encoding: "utf8" }).trim();

/**
 * Starts the mail of the made-up world: SMTP in, IMAP out, and a page to play it, all on loopback. Mail is kept.
 * @param addresses mailboxes there are from the beginning; any other is made when the first mail comes to it
 */
export async function startPost(o: {
  folder: string;
  smtpPort: number;
  imapPort: number;
  pagePort: number | null;
  addresses?: readonly string[];
}): Promise<Post> {
  const root = process.getuid?.() === 0;
  const user = root ? "nobody" : nameOf("-un");
  const as = { uid: idOf(user, "-u"), gid: idOf(user, "-g"), user, group: nameOf("-gn", user) };
  mkdirSync(o.folder, { recursive: true, mode: 0o755 });
  const folders = new MailFolders(join(o.folder, "mail"), root ? as : null);
  for (const a of o.addresses ?? []) folders.open(a);
  const faults = new KeptFaults(join(o.folder, "faults.json"), FAULTS);
  const setFaults = (f: Partial<Faults>) => faults.set(f);
  // Where it keeps its sockets: their names may have some hundred characters and no more.
  const run = mkdtempSync(join(tmpdir(), "post-"));
  const stops = [
    async () => rmSync(run, { recursive: true, force: true }),
    await startImap({
      folder: run,
      mail: folders.root,
      port: o.imapPort,
      password: PASSWORD,
      as,
      root,
    }),
    await startSmtp({ port: o.smtpPort, password: PASSWORD, folders, faults: () => faults.get() }),
  ];
  if (o.pagePort !== null)
    stops.push(await startPage(o.pagePort, { folders, faults: () => faults.get(), setFaults }));
  return {
    folders,
    setFaults,
    async stop() {
      for (const s of stops.reverse()) await s();
    },
  };
}
