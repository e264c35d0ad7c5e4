import {
  ANY,
  checkFormula,
  context,
  DATETIME,
  Entity,
  FILE,
  isList,
  listOf,
  TEXT,
  typeInWords,
  YESNO,
  type Type,
  type Value,
} from "@/core/expression";
import {
  distinctReceivers,
  receiversIn,
  type Receiver,
  type StepBehaviour,
  type StepTurn,
} from "@/core/kinds";
import { writtenText } from "@/core/letter";
import type { StepOf } from "@/core/route";
import type { ChatAsked, MailAsked, TellChat, TellMail } from "./shape";

type Step = StepOf<"tell">;

/** The last answer; nothing where none has come. */
const REPLY = context({
  reply: TEXT,
  by: TEXT,
  /** Whether the receiving server vouches for who wrote it. */
  vouched: YESNO,
  at: DATETIME,
  files: listOf(FILE),
});
/** Characters of an answer that formulas read; all of it stands in the conversation. */
const MOST_REPLY = 20_000;

/** What of a mail is a formula, and what it says. */
const MAIL_PLACES = {
  to: "who else the mail goes to",
  copy: "who gets a copy",
  blind: "who gets a copy without the others seeing it",
  replyTo: "where replies go to",
  files: "the files it carries",
} as const satisfies Partial<Record<keyof TellMail, string>>;
const PLACES = Object.keys(MAIL_PLACES) as (keyof typeof MAIL_PLACES)[];

/** A notice, a mail or a message in a chat room to somebody; the route goes on without waiting for it. */
export const tell: StepBehaviour<"tell"> = {
  verb: "Tell",
  says: "something to somebody, on their screen, by mail or in chat",
  blank: (id) => ({
    id,
    name: "Tell the requester",
    kind: "tell",
    who: { by: "requester" },
    subject: "{Request.number}",
    text: "",
    ways: [],
  }),
  lists: {
    in: "ways",
    one: "way when it cannot be delivered",
    name: () => "it cannot be delivered",
    back: () => false,
    blank: (id) => ({ id, steps: [] }),
    at: () => 0,
    most: 1,
    sideBySide: true,
    passedBy: true,
  },
  late: (s) => s.ways[0]?.id ?? null,
  asks: null,
  formulas: (s, walk) => {
    const { mail } = s;
    const told = {
      ...s,
      who: walk.rule("who", "who is told", s.who, mail ? "addresses" : undefined),
      subject: walk.template({ place: "subject", says: "the subject" }, s.subject),
      text: walk.template({ place: "text", says: "the text" }, s.text),
      ...(s.on === undefined
        ? {}
        : { on: walk.formula({ place: "on", says: "the record a note is left on", wants: ANY }, s.on) }),
      ...(s.chat?.room === undefined
        ? {}
        : { chat: { room: walk.formula({ place: "room", says: "the room", wants: TEXT }, s.chat.room) } }),
    };
    if (!mail) return told;
    const walked = PLACES.flatMap((p) =>
      mail[p] === undefined
        ? []
        : [[p, walk.formula({ place: p, says: MAIL_PLACES[p], wants: ANY }, mail[p])]],
    );
    return { ...told, mail: { ...mail, ...Object.fromEntries(walked) } };
  },
  letters: (s) => (s.mail ? [s.letter] : []),
  steps: (s) => s,
  sets: () => [],
  problems(s, { definition, scope, office, say }) {
    const typeOf = (text: string): Type => {
      const { type } = checkFormula(text, scope);
      return type.t === "list" ? type.of : type;
    };
    const unknown = (t: Type) => t.t === "any" || t.t === "null" || (t.t === "context" && t.open === true);
    const isRecord = (t: Type) =>
      t.t === "context" && t.what !== undefined && t.what !== "person" && t.what !== "file";
    if (s.on?.trim()) {
      const t = typeOf(s.on);
      if (!isRecord(t) && !unknown(t))
        say("error", "no-record", `A note is left on a record; “${s.on}” is ${typeInWords(t)}.`, "on");
    }
    if ([s.mail, s.chat, s.own].filter(Boolean).length > 1)
      say("error", "told-twice", `“${s.name}” is to tell by two ways at once. Choose one of them.`, "who");
    if (s.chat && office && office.chat === undefined)
      say("error", "no-chat", `“${s.name}” tells in a chat room, and none is set up in Office.`, "who");
    if (s.ways.length > 0 && !s.mail && !s.chat)
      say(
        "warning",
        "never-returned",
        `“${s.name}” tells by a notice, which always arrives: what stands under “it cannot be delivered” is never done.`,
      );
    if (!s.mail) return;
    if (!definition.mailbox && !definition.procedure)
      say(
        "error",
        "no-mailbox",
        `“${s.name}” sends mail, and the process has no mailbox to send it from.`,
        "mail",
      );
    const reached = s.who.by === "formula" ? [["who", s.who.formula] as const] : [];
    for (const [place, text] of [...PLACES.map((p) => [p, s.mail![p]] as const), ...reached]) {
      if (!text?.trim()) continue;
      const t = typeOf(text);
      if (unknown(t)) continue;
      const isFile = t.t === "context" && t.what === "file";
      if (place === "files" && !isFile)
        say("error", "no-file", `A mail carries files; “${text}” is ${typeInWords(t)}.`, place);
      const reachable = t.t === "text" || (t.t === "context" && (t.what === "person" || "email" in t.fields));
      if (place !== "files" && !reachable)
        say(
          "error",
          "no-address",
          `Mail goes to people and addresses; “${text}” is ${typeInWords(t)}. Say for example Borrower.Email.`,
          place,
        );
    }
  },
  exit: () => null,
  goesOn: () => true,
  passes: true,
  gives: () => REPLY,
  isReadByName: (s) => s.mail?.replies === true,
  replied(turn, s, { text, by, vouched, files }, at) {
    if (!s.mail?.replies) return;
    turn.keep({
      value: {
        entries: [
          ["reply", text.slice(0, MOST_REPLY)],
          ["by", by],
          ["vouched", vouched],
          ["at", at],
          ["files", { list: files.map((id) => ({ of: "file", id })) }],
        ],
      },
    });
  },
  enter(turn, s) {
    // What was answered before is no answer to this.
    if (s.mail?.replies) turn.keep({ value: null });
    const on = s.on?.trim() ? recordsOf(turn.value("on", s.on)) : [];
    const mail = s.mail ? mailOf(turn, s, s.mail) : letterFor(turn, s);
    const found = s.mail ? [] : turn.people("who", s.who);
    const chat = s.chat ? chatOf(turn, s, s.chat, found) : null;
    const people = chat ? [] : found;
    const sent = mail !== null && mail.to.length + mail.copy.length + mail.blind.length > 0;
    const letter = s.mail && s.letter !== undefined ? turn.letter(s.letter) : null;
    const chatted = chat !== null && (chat.people.length > 0 || chat.room !== undefined);
    if (people.length > 0 || on.length > 0 || sent || chatted)
      turn.send({
        kind: "tell",
        people,
        subject: letter?.subject ?? turn.text("subject", s.subject),
        text: letter ? writtenText(letter.letter.parts) : turn.text("text", s.text),
        ...(on.length > 0 ? { on } : {}),
        ...(sent ? { mail: letter ? withLetter(mail, letter) : mail } : {}),
        ...(chatted ? { chat } : {}),
        ...(s.own ? { own: true } : {}),
      });
    return { go: "on" };
  },
  forget: {
    work: (w) => {
      const { mail } = w;
      const gone = mail && { ...mail, to: known(mail.to), copy: known(mail.copy), blind: known(mail.blind) };
      const { replyTo: _, letter: _letter, ...kept } = gone ?? {};
      return { ...w, subject: "", text: "", ...(gone ? { mail: kept as MailAsked } : {}) };
    },
    result: (r) => (r.mailed ? { ...r, mailed: known(r.mailed) } : r),
  },
  tells: (w) => [
    ...[...w.people, ...(w.chat?.people ?? [])].map((person) => ({ person })),
    ...(w.mail?.to ?? []),
  ],
  kept: ({ people, on = [], mail, chat }) => ({
    people,
    ...(on.length > 0 ? { notes: on.length } : {}),
    ...(mail ? { mailed: distinctReceivers([...mail.to, ...mail.copy, ...mail.blind]) } : {}),
    ...(chat ? { chatted: chat.people } : {}),
    ...(chat?.room === undefined ? {} : { room: chat.room }),
  }),
  doneWords({ people, notes = 0, mailed = [], chatted = [], room }, step, names) {
    const told = `${people.map(names.person).join(", ")} ${people.length > 1 ? "were" : "was"} told`;
    const left = `a note was left on ${notes === 1 ? "a record" : `${notes} records`}`;
    const written = `${step}: mail to ${mailed.map((r) => ("person" in r ? names.person(r.person) : r.name || r.email)).join(", ")}`;
    const inChat = `${step}: a message in chat to ${room === undefined ? chatted.map(names.person).join(", ") : `the room ${room}`}`;
    const parts = [
      ...(room !== undefined || chatted.length > 0 ? [inChat] : []),
      ...(mailed.length > 0 ? [written] : []),
      ...(people.length > 0 ? [told] : []),
      ...(notes > 0 ? [left] : []),
    ];
    return { text: parts.join("; "), quiet: true };
  },
};

/** Addresses tell who somebody is; those who work here are taken care of by their accounts. */
const known = (of: readonly Receiver[]): Receiver[] => of.filter((r) => "person" in r);

/** Of a notice what goes out as a letter, because its reader has no screen here; null where nobody is one. */
function letterFor(turn: StepTurn<"tell">, s: Step): MailAsked | null {
  const to = s.chat ? [] : turn.hearers("who", s.who);
  if (to.length === 0) return null;
  const hidden = turn.tellsHidden("subject", s.subject) || turn.tellsHidden("text", s.text);
  return { to, copy: [], blind: [], files: [], ...(hidden ? { hidden: true } : {}) };
}

function mailOf(turn: StepTurn<"tell">, s: Step, mail: TellMail): MailAsked {
  const in_ = (place: keyof typeof MAIL_PLACES): Receiver[] =>
    mail[place]?.trim() ? distinctReceivers(receiversIn(turn.value(place, mail[place]))) : [];
  const replyTo = in_("replyTo")[0];
  const ownText = s.letter === undefined;
  const hidden =
    (ownText && (turn.tellsHidden("subject", s.subject) || turn.tellsHidden("text", s.text))) ||
    (mail.files?.trim() ? turn.tellsHidden("files", mail.files, "formula") : false);
  return {
    to: distinctReceivers([...turn.receivers("who", s.who), ...in_("to")]),
    copy: in_("copy"),
    blind: in_("blind"),
    ...(replyTo ? { replyTo } : {}),
    files: mail.files?.trim() ? filesOf(turn.value("files", mail.files)) : [],
    ...(mail.again ? { again: true } : {}),
    ...(hidden ? { hidden: true } : {}),
  };
}

/** Where there is a room, everybody reads it there; else each of them has a message. */
function chatOf(turn: StepTurn<"tell">, s: Step, chat: TellChat, people: string[]): ChatAsked {
  const room = chat.room?.trim() ? turn.value("room", chat.room) : null;
  const named = typeof room === "string" && room.trim() !== "" ? room.trim() : undefined;
  const hidden = turn.tellsHidden("subject", s.subject) || turn.tellsHidden("text", s.text);
  return {
    people: named === undefined ? people : [],
    ...(named === undefined ? {} : { room: named }),
    ...(hidden ? { hidden: true } : {}),
  };
}

function withLetter(mail: MailAsked, { hidden, letter }: ReturnType<StepTurn<"tell">["letter"]>): MailAsked {
  return { ...mail, letter, ...(hidden ? { hidden: true } : {}) };
}

/** The files a value is, each once. */
function filesOf(v: Value): string[] {
  const all = isList(v) ? v : [v];
  return [...new Set(all.flatMap((x) => (x instanceof Entity && x.of === "file" ? [x.id] : [])))];
}

/** The records a value is, each once; people and files are none. */
function recordsOf(v: Value): { register: string; id: string }[] {
  const all = isList(v) ? v : [v];
  const found = all.flatMap((x) =>
    x instanceof Entity && x.of !== "person" && x.of !== "file" ? [{ register: x.of, id: x.id }] : [],
  );
  return [...new Map(found.map((r) => [`${r.register}/${r.id}`, r])).values()];
}
