import type { Receiver } from "@/core/kinds/receiver";
import type { WrittenLetter } from "@/core/letter";
import type { StepBase } from "@/core/route/stepBase";
import type { Rule } from "@/rules/shapes";

/** Somebody is told: by a notice on their screen, by mail, in a chat room, or as they like it. */
export interface Tell<List> extends StepBase {
  kind: "tell";
  who: Rule;
  /** Texts with {formulas}. */
  subject: string;
  text: string;
  /** Formula for the record, or the records, on which the text is left as a note too. */
  on?: string;
  /** By mail, and not by a notice. */
  mail?: TellMail;
  /** In the chat room, and not by a notice. */
  chat?: TellChat;
  /** By a notice, and beside it by whatever ways each of them has chosen for what processes tell. */
  own?: true;
  /** One of the process's letters in the place of both texts; by mail alone. */
  letter?: string;
  /** At most one: what is done where a mail cannot be delivered; the route has gone on by then. */
  ways: TellWay<List>[];
}
export interface TellWay<List> {
  id: string;
  steps: List;
}
/** Formulas for addresses and people, or lists of them; and for files. */
export interface TellMail {
  /** Beside whom the rule finds. */
  to?: string;
  /** With these all get one mail, and see of each other but of those of `blind`; without, each gets one of their own. */
  copy?: string;
  blind?: string;
  replyTo?: string;
  files?: string;
  /** What is answered is read by the name of the step. */
  replies?: true;
  /** Where it cannot be known whether one arrived it is sent once more, under the same id. */
  again?: true;
}

/** To each of those told, or to one room for all of them. */
export interface TellChat {
  /** Formula for the name of a room. */
  room?: string;
}

/** People to be told by a notice, and what goes out as mail. */
export interface TellWork {
  kind: "tell";
  people: string[];
  subject: string;
  text: string;
  on?: { register: string; id: string }[];
  mail?: MailAsked;
  chat?: ChatAsked;
  /** The notice goes by the ways each of them has chosen, too. */
  own?: true;
  /** It reminds them of what waits for them: those of one minute are one notice. */
  reminds?: true;
}
export interface ChatAsked {
  /** Each in a message of their own; nobody where there is a room. */
  people: string[];
  room?: string;
  /** It tells of what is hidden from somebody. */
  hidden?: true;
}
export interface MailAsked {
  to: Receiver[];
  copy: Receiver[];
  blind: Receiver[];
  replyTo?: Receiver;
  /** Ids of files. */
  files: string[];
  again?: true;
  letter?: WrittenLetter;
  /** It tells of what is hidden from somebody. */
  hidden?: true;
}
export interface TellResult {
  people: string[];
  /** On so many records it was left as a note. */
  notes?: number;
  /** To whom a mail was made ready; whether it arrived stands with the mail. */
  mailed?: Receiver[];
  /** To whom a message was made ready, in which room. */
  chatted?: string[];
  room?: string;
}
