/** A mail comes to the process's mailbox that answers nothing. */
export interface MailStart {
  id: string;
  kind: "mail";
  /** Condition over the mail; absent for any. */
  when?: string;
  /** Somebody the office does not know, or whom the mail server does not vouch for: taken as well, or held for a person. */
  strangers: "take" | "hold";
  /** What fields of the form begin with, over the mail. */
  values: { field: string; value: string }[];
}
