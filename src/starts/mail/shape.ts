/** A mail comes to the process's mailbox that answers nothing. */
export interface MailStart {
  id: string;
  kind: "mail";
  /** Condition over the mail; absent for any. */
  when?: string;
  /**
   * Somebody the office does not know, or whom the mail server does not vouch for: taken as well, held for a person, or
   * refused, with a letter to whoever the server vouches for.
   */
  strangers: "take" | "hold" | "refuse";
  /** What that letter says. */
  refusal?: string;
  /** What fields of the form begin with, over the mail. */
  values: { field: string; value: string }[];
}
