import { mailboxes, type Db } from "@/db";
import { sealMailPassword } from "@/services";

/** Who writes for which processes of the demo; everything goes by the stand-in Post. */
const BOXES = [
  ["loans@quillhaven.example", "Quillhaven Registry"],
  ["keys@quillhaven.example", "Quillhaven Keys"],
  ["costs@quillhaven.example", "Quillhaven Finance"],
  ["visits@quillhaven.example", "Quillhaven Learning"],
  ["offers@quillhaven.example", "Quillhaven Collections"],
  ["news@quillhaven.example", "Quillhaven Museums"],
] as const;
const NEWS = "news@quillhaven.example";

/** What Post calls itself where it says what it found out about senders. */
const POST = "post.quillhaven.example";

/** Makes the mailboxes, or says where Post is this time. */
export async function putDemoMailboxes(db: Db, ports: { smtp: number; imap: number }): Promise<void> {
  const password = sealMailPassword("quillhaven");
  for (const [address, name] of BOXES)
    await mailboxes.putMailbox(db, {
      address,
      name,
      smtp_host: "127.0.0.1",
      smtp_port: ports.smtp,
      imap_host: "127.0.0.1",
      imap_port: ports.imap,
      security: "none",
      user_name: address,
      password,
      checks_by: POST,
      news: address === NEWS,
    });
}
