/** Where a mailbox is, and how it is entered. */
export interface MailServer {
  host: string;
  port: number;
  /** From the first byte on, from the first command on, or (on this machine itself) not at all. */
  security: "none" | "starttls" | "tls";
  user: string;
  password: string;
}
