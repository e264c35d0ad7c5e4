import type { MailboxRow } from "@/db";
import type { MailServer } from "@/outside/mail";
import { seal, unseal } from "../kernel/seal";

/** What mailbox passwords are sealed as. */
export const MAIL_PASSWORD = "mailbox password";

/** The password of a mailbox as it is kept. */
export const sealMailPassword = (password: string): Buffer => seal(MAIL_PASSWORD, password);

const WRONG_KEY = "Its password was sealed with another SECRET_KEY: enter it anew in Office › Mailboxes.";

/** Where its mail is sent; a sentence where that cannot be told. */
export function sendingServer(m: MailboxRow): MailServer | string {
  const password = unseal(MAIL_PASSWORD, m.password);
  if (password === null) return WRONG_KEY;
  return { host: m.smtp_host, port: m.smtp_port, security: m.security, user: m.user_name, password };
}

/** Where its mail is read; null where it is not. */
export function readingServer(m: MailboxRow): MailServer | string | null {
  if (m.imap_host === null || m.imap_port === null) return null;
  const password = unseal(MAIL_PASSWORD, m.password);
  if (password === null) return WRONG_KEY;
  return { host: m.imap_host, port: m.imap_port, security: m.security, user: m.user_name, password };
}
