import { letterPage, partsOfText, type WrittenLetter } from "@/core/letter";
import { wordsOf } from "@/core/mail";
import type { Asked } from "./asked";

export interface LetterText {
  text: string;
  html: string;
}
interface Around {
  /** Opens the page on which one presses; null for no links. */
  link: string | null;
  /** Where the task stands for whoever signs in. */
  desk: string;
  /** A moment in the reader's own words. */
  time(ms: number): string;
}

/** What is written to somebody who is asked: what it is about, until when, and how it can be answered from there. */
export function askLetter(a: Asked, { link, desk, time }: Around): LetterText {
  const until = a.due === null ? "" : `It waits for you until ${time(a.due)}.`;
  const answers = a.answers.map((x) => ({
    label: x.label,
    does: [x.then, x.note === "must" ? "say why" : ""].filter(Boolean).join("; "),
    href: link === null ? null : `${link}?as=${encodeURIComponent(x.id)}`,
    words: wordsOf(x),
  }));
  const reply = a.byMail.reply === true;
  const linked = link !== null;
  const text = [
    a.letter.text.trim(),
    until,
    linked
      ? [
          "Your answer, by a page on which you press once more:",
          // No line of it may be read as an answer where a mail program repeats it without a mark.
          ...answers.map((x) => `  to say “${x.label}”${x.does ? ` (${x.does})` : ""}: ${x.href}`),
        ].join("\n")
      : "",
    reply
      ? [
          `${linked ? "Or reply" : "Reply"} to this mail: the first line is one of these words, and what you write after it is kept as your note.`,
          ...answers.map((x) => `  for “${x.label}”: ${x.words.join(", ")}`),
        ].join("\n")
      : "",
    `All of it: ${desk}`,
  ]
    .filter((p) => p !== "")
    .join("\n\n");
  const html = [
    until && `<p style="${P}">${escape(until)}</p>`,
    linked &&
      `<table role="presentation" style="border-collapse:collapse;margin:18px 0">${answers
        .map(
          (x) =>
            `<tr><td style="padding:7px 18px 7px 0"><a href="${escape(x.href!)}" style="${LINK};font-weight:600">${escape(x.label)}</a></td><td style="padding:7px 0;color:#6a5f57">${escape(x.does)}</td></tr>`,
        )
        .join(
          "",
        )}</table><p style="${SMALL}">Each opens a page that says what will happen; nothing is done before you press there.</p>`,
    reply &&
      `<p style="${SMALL}">${linked ? "Or reply" : "Reply"} to this mail: the first line is one of these words, and what you write after it is kept as your note. ${answers
        .map((x) => `<b>${escape(x.label)}</b>: ${escape(x.words.join(", "))}`)
        .join("; ")}.</p>`,
    `<p style="${SMALL}"><a href="${escape(desk)}" style="${LINK}">${escape(a.number)} on your desk</a></p>`,
  ];
  return { text, html: letterPage(a.letter.written, html.filter((x) => typeof x === "string").join("")) };
}

/** What is written to somebody outside who is asked: they have no desk, and answer on the page of their link. */
export function outsideAskLetter(
  a: Pick<Asked, "due">,
  m: { body: string; letter: WrittenLetter | null },
  { link, time }: { link: string; time(ms: number): string },
): LetterText {
  const until = a.due === null ? "" : `It waits for you until ${time(a.due)}.`;
  const written = m.letter ?? { language: "", parts: partsOfText(m.body) };
  return {
    text: [m.body.trim(), until, `Your answer: ${link}\n${ALONE}`].filter((p) => p !== "").join("\n\n"),
    html: letterPage(
      written,
      `${until && `<p style="${P}">${escape(until)}</p>`}<p style="${P}"><a href="${escape(link)}" style="${LINK};font-weight:600">Look at it and answer</a></p><p style="${SMALL}">${ALONE}</p>`,
    ),
  };
}
const ALONE = "This link is yours alone: whoever has it can read and answer for you.";

const P = "margin:0 0 14px";
const SMALL = "margin:0 0 10px;font-size:14px;color:#6a5f57";
const LINK = "color:#3f6b3a;text-decoration:underline";

const escape = (s: string): string => s.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

/** How whoever follows a request from outside comes to it, at the end of a letter. */
export const linkText = (link: string): string => `Where it stands, and what you can do: ${link}\n${ALONE}`;
export const linkHtml = (link: string): string =>
  `<p style="${P}"><a href="${escape(link)}" style="${LINK};font-weight:600">Where it stands, and what you can do</a></p><p style="${SMALL}">${ALONE}</p>`;
