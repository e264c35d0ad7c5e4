import { readReply } from "@/core/mail";
import { readMail } from "./readMail";

/**
 * Replies in the shapes in which mail programs make them, all made up: what is decided, and the note. What is not plainly
 * said decides nothing.
 */
const ANSWERS = [
  {
    id: "yes",
    label: "Approve",
    words: "yes, ok, I approve, approved, ja, oui, tak, sí, sì, einverstanden, d'accord",
  },
  { id: "no", label: "Decline", words: "no, I decline, declined, nein, non, nie, abgelehnt, refusé" },
  { id: "back", label: "Send back", words: "back" },
];
const ASKED =
  "It is about Plaster.\nIt waits for you until Thu 5 Mar, 17:00.\n  for “Approve”: approve, yes, ok\n  for “Decline”: decline, no";
const quote = (s: string) =>
  s
    .split("\n")
    .map((l) => `> ${l}`)
    .join("\n");
const WHO = "Quillhaven Registry <walls@quillhaven.example>";

/** How programs lead in what they repeat below. */
const LEADS: Record<string, string> = {
  english: `On Tue, 3 Mar 2026 at 10:00, ${WHO} wrote:`,
  "english in two lines": `On Tue, 3 Mar 2026 at 10:00, Quillhaven Registry\n<walls@quillhaven.example> wrote:`,
  "english by date": `On 3 Mar 2026, at 10:00, ${WHO} wrote:`,
  german: `Am Di., 3. März 2026 um 10:00 Uhr schrieb ${WHO}:`,
  "german by day": `Am 03.03.2026 um 10:00 schrieb ${WHO}:`,
  french: `Le mar. 3 mars 2026 à 10:00, ${WHO} a écrit :`,
  spanish: `El mar, 3 mar 2026 a las 10:00, ${WHO} escribió:`,
  italian: `Il giorno mar 3 mar 2026 alle ore 10:00 ${WHO} ha scritto:`,
  polish: `wt., 3 mar 2026 o 10:00 ${WHO} napisał(a):`,
  dutch: `Op di 3 mrt 2026 om 10:00 schreef ${WHO}:`,
  swedish: `Den tis 3 mars 2026 kl 10:00 skrev ${WHO}:`,
};
const HEADS: Record<string, string> = {
  "original message": `-----Original Message-----\nFrom: ${WHO}\nSent: 03 March 2026 10:00\nTo: Orla Fennimore <orla.fennimore@quillhaven.example>\nSubject: WR-001: Plaster\n\n${ASKED}`,
  "a line and headers": `________________________________\nFrom: ${WHO}\nSent: Tuesday, March 3, 2026 10:00 AM\nTo: Orla Fennimore <orla.fennimore@quillhaven.example>\nSubject: WR-001: Plaster\n\n${ASKED}`,
  "german headers": `________________________________\nVon: ${WHO}\nGesendet: Dienstag, 3. März 2026 10:00\nAn: Orla Fennimore <orla.fennimore@quillhaven.example>\nBetreff: WR-001: Plaster\n\n${ASKED}`,
};
const SIGNED: Record<string, string> = {
  "two dashes": "\n-- \nOrla Fennimore\nHead of Registry\n+353 1 555 0100",
  telephone: "\nSent from my iPhone",
  "telephone in german": "\nVon meinem iPhone gesendet",
};

interface Case {
  name: string;
  raw: string;
  /** Null: asks back. */
  answer: string | null;
  /** The whole note, where it is known to the letter. */
  note?: string;
}
const cases: Case[] = [];
const head = (more = "", type = "text/plain; charset=utf-8") =>
  `From: Orla Fennimore <orla.fennimore@quillhaven.example>\r\nTo: walls@quillhaven.example\r\nSubject: Re: WR-001: Plaster\r\nMessage-ID: <r@quillhaven.example>\r\nIn-Reply-To: <a@quillhaven.example>\r\nMIME-Version: 1.0\r\nContent-Type: ${type}\r\n${more}\r\n`;
const plain = (text: string) => head("Content-Transfer-Encoding: 8bit\r\n") + text.replace(/\n/g, "\r\n");
const add = (name: string, raw: string, answer: string | null, note?: string) =>
  cases.push({ name, raw, answer, ...(note === undefined ? {} : { note }) });

for (const [name, lead] of Object.entries(LEADS)) {
  add(`yes, above what is repeated (${name})`, plain(`Yes\n\n${lead}\n\n${quote(ASKED)}\n`), "yes", "");
  add(`no with a reason (${name})`, plain(`No, too wet.\n\n${lead}\n${quote(ASKED)}\n`), "no", "too wet.");
}
for (const [name, lead] of Object.entries(HEADS)) {
  add(`yes above headers (${name})`, plain(`Approve\n\n${lead}\n`), "yes", "");
  add(
    `no above headers (${name})`,
    plain(`Decline\nThe wall is wet.\n\n${lead}\n`),
    "no",
    "The wall is wet.",
  );
}
for (const [name, signed] of Object.entries(SIGNED)) {
  add(`signed by ${name}`, plain(`ok\n${signed}\n\n${LEADS["english"]}\n${quote(ASKED)}\n`), "yes", "");
  add(`signed by ${name}, nothing repeated`, plain(`No\ntoo dear\n${signed}\n`), "no", "too dear");
}
add("below what is repeated", plain(`${LEADS["english"]}\n${quote(ASKED)}\n\nyes\n`), "yes", "");
add(
  "below what is repeated, with a note",
  plain(`${LEADS["english"]}\n${quote(ASKED)}\n\nNo: not before May\n`),
  "no",
  "not before May",
);
add("nothing repeated", plain("yes"), "yes", "");
add("in capitals", plain("YES!!!\n"), "yes", "");
add("in quotation marks", plain("“Approve”\n"), "yes", "");
add("with stars", plain("*Approve*\n"), "yes", "");
add("after a greeting", plain("Dear colleagues,\n\nyes.\n\nPlease hurry.\n"), "yes", "Please hurry.");
add("after a german greeting", plain("Hallo zusammen,\n\nja\n"), "yes", "");
add("a sentence that is listed", plain("I approve. Thank you all.\n"), "yes", "Thank you all.");
add("with a dash", plain("No – the crate is too small\n"), "no", "the crate is too small");
add("in polish", plain("Tak, proszę.\n"), "yes", "proszę.");
add("in french with an apostrophe of print", plain("D’accord\n"), "yes", "");
add("in spanish", plain("Sí.\n"), "yes", "");
add("the third answer", plain("Send back\nThe plan is missing.\n"), "back", "The plan is missing.");
// What is not plainly said.
add("no problem", plain("No problem, approve\n"), null);
add("yes but", plain("Yes but only in May\n"), null);
add("yes and no", plain("yes / no\n"), null);
add("no, wait: yes", plain("No, wait: yes\n"), null);
add("two lines, two answers", plain("yes\nno\n"), null);
add("yes I think we should decline", plain("Yes, I think we should say no\n"), null);
add("not approved", plain("Not approved\n"), null);
add("don't approve", plain("Please do not approve\n"), null);
add("a question", plain("yes?\n"), null);
add("thanks", plain("Thanks!\n"), null);
add("nothing but what is repeated", plain(`${LEADS["english"]}\n${quote(ASKED)}\n`), null);
add("empty", plain(""), null);
add("only a signature", plain("-- \nOrla Fennimore\n"), null);
add("a picture of a thumb", plain("👍\n"), null);
add("a word that begins like one", plain("Nope\n"), null);
add("a long story", plain(`${"I have read all of it and wonder. ".repeat(400)}\nyes\n`), null);
add("a greeting with an answer in it", plain("Hi, no\nyes\n"), null);
add(
  "a first line that is too long for a greeting",
  plain("Dear colleagues of the registry and all the others who read this each day,\nyes\n"),
  null,
);
add("in wide letters", plain("ＹＥＳ\n"), "yes", "");
add("all that was asked, repeated without a mark", plain(ASKED), null);
add("words that were offered, repeated without a mark", plain(ASKED.split("\n").slice(2).join("\n")), null);
add(
  "answers between the lines",
  plain(`> It is about Plaster.\nWhich wall?\n> Approve: approve, yes, ok\n`),
  null,
);

// In the ways they are written down.
const qp = "Content-Transfer-Encoding: quoted-printable\r\n";
add(
  "latin 1",
  head(qp, "text/plain; charset=iso-8859-1") + "Refus=E9\r\nTrop cher =E0 pr=E9sent.\r\n",
  "no",
  "Trop cher à présent.",
);
add("windows 1252", head(qp, "text/plain; charset=windows-1252") + "D=92accord\r\n", "yes", "");
add(
  "base64",
  head("Content-Transfer-Encoding: base64\r\n") + Buffer.from("Nein, zu spät.\n").toString("base64") + "\r\n",
  "no",
  "zu spät.",
);
add(
  "utf-8 that says to be latin 1",
  head("Content-Transfer-Encoding: 8bit\r\n", "text/plain; charset=us-ascii") + "yes\r\n",
  "yes",
  "",
);
add("a charset nobody knows", head("", "text/plain; charset=x-unheard-of") + "yes\r\n", "yes", "");
add(
  "format flowed",
  head("", "text/plain; charset=utf-8; format=flowed") + "No, the crate is \r\ntoo small.\r\n",
  "no",
);

// HTML alone, and both.
const html = (body: string) => head("", "text/html; charset=utf-8") + `<html><body>${body}</body></html>`;
add(
  "HTML alone, repeated in a block",
  html(
    `<div dir="ltr">Yes</div><br><div class="said_before"><div dir="ltr">${LEADS["english"]!.replace(/</g, "&lt;").replace(/>/g, "&gt;")}<br></div><blockquote style="margin:0 0 0 .8ex;border-left:1px solid #ccc"><p>It is about Plaster.</p><p>Decline: no</p></blockquote></div>`,
  ),
  "yes",
  "",
);
add(
  "HTML alone, repeated below headers",
  html(
    `<div class="WordSection1"><p class="MsoNormal">Decline</p><p class="MsoNormal">The wall is wet.</p><div style="border:none;border-top:solid #E1E1E1 1.0pt"><p class="MsoNormal"><b>From:</b> Quillhaven Registry &lt;walls@quillhaven.example&gt;<br><b>Sent:</b> 03 March 2026 10:00<br><b>To:</b> Orla Fennimore &lt;orla.fennimore@quillhaven.example&gt;<br><b>Subject:</b> WR-001: Plaster</p></div><p>It is about Plaster.</p><p>Approve: yes</p></div>`,
  ),
  "no",
  "The wall is wet.",
);
add(
  "HTML with a script",
  html(`<script>document.write("no")</script><style>p{content:"no"}</style><p>yes</p>`),
  "yes",
  "",
);
const both = (text: string, rich: string, extra = "") =>
  head("", 'multipart/mixed; boundary="o"') +
  `--o\r\nContent-Type: multipart/alternative; boundary="i"\r\n\r\n--i\r\nContent-Type: text/plain; charset=utf-8\r\n\r\n${text}\r\n--i\r\nContent-Type: text/html; charset=utf-8\r\n\r\n${rich}\r\n--i--\r\n${extra}--o--\r\n`;
add("text and HTML", both("Yes\r\n", "<p>Yes</p>"), "yes", "");
add(
  "with an attachment of a desktop program's own",
  both(
    "No, see there\r\n",
    "<p>No, see there</p>",
    `--o\r\nContent-Type: application/ms-tnef; name="winmail.dat"\r\nContent-Transfer-Encoding: base64\r\n\r\neJ8+IgAA\r\n`,
  ),
  "no",
  "see there",
);

it("words of two answers decide nothing", () => {
  const both = [
    { id: "a", label: "A", words: "fine" },
    { id: "b", label: "B", words: "fine" },
  ];
  expect(readReply("fine", both)).toMatchObject({ unclear: "two" });
});

it("has at least sixty", () => expect(cases.length).toBeGreaterThanOrEqual(60));

it.each(cases.map((c) => [c.name, c] as const))("%s", async (_, c) => {
  const mail = await readMail(Buffer.from(c.raw, "utf8"), "", new Set());
  const read = readReply(mail.said, ANSWERS);
  expect("answer" in read ? read.answer : null).toBe(c.answer);
  if ("answer" in read && c.note !== undefined) expect(read.note).toBe(c.note);
});
