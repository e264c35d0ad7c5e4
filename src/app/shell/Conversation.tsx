import { FileLink } from "@/forms";
import type { MailShown, MayWrite } from "@/services";
import { classes, whenText } from "@/ui";
import { AnswerLetter } from "./AnswerLetter";
import { LetterParts } from "./LetterParts";
import { SettleMail } from "./SettleMail";
import { WriteLetter } from "./WriteLetter";

/** All that was written about a request, in order, like letters in a folder. */
export function Conversation({
  number,
  person,
  letters,
  write,
  zone,
}: {
  number: string;
  /** Who reads it. */
  person: string;
  letters: MailShown[];
  /** What they may write. */
  write: MayWrite | null;
  zone: string;
}) {
  if (letters.length === 0 && !write) return null;
  const newest = letters.at(-1)?.id;
  return (
    <section aria-labelledby="conversation" className="mt-10">
      <h2 id="conversation" className="mb-2">
        Conversation
      </h2>
      <ol>
        {letters.map((l) => (
          <LetterShown key={l.id} letter={l} person={person} zone={zone} newest={l.id === newest} />
        ))}
      </ol>
      {letters.length === 0 && <p className="mb-2 text-soft">Nothing was written yet.</p>}
      {write && <WriteLetter number={number} person={person} may={write} />}
    </section>
  );
}

function LetterShown({
  letter: l,
  person,
  zone,
  newest,
}: {
  letter: MailShown;
  person: string;
  zone: string;
  newest: boolean;
}) {
  return (
    <li
      className={classes(
        "border-t border-t-line py-4",
        newest ? "border-l-[3px] border-l-moss pl-4" : "pl-[19px]",
      )}
    >
      <p className="flex flex-wrap items-baseline gap-x-3">
        <span className="tracking-wide [font-variant:small-caps]">{l.from}</span>
        <span className="text-sm text-soft">
          {l.channel === "chat" && "in chat "}to {l.to.join(", ") || "nobody"}
          {l.copies.length > 0 && `, copy to ${l.copies.join(", ")}`}
        </span>
        <span className="ml-auto text-sm whitespace-nowrap text-soft">{whenText(l.at, zone)}</span>
      </p>
      <h3 className="!text-base break-words">
        {l.subject}
        {l.automatic && <span className="ml-2 text-sm font-normal text-soft">written by a program</span>}
      </h3>
      {l.parts && <LetterParts parts={l.parts} />}
      {!l.parts && l.text && <p className="mt-1 max-w-prose break-words whitespace-pre-wrap">{l.text}</p>}
      {l.quoted && (
        <details className="mt-1 text-sm">
          <summary className="text-soft">what it answers</summary>
          <p className="border-l-2 border-line pl-3 break-words whitespace-pre-wrap text-soft">{l.quoted}</p>
        </details>
      )}
      {l.files.length > 0 && (
        <ul className="mt-2 flex flex-wrap gap-x-5" aria-label="Files">
          {l.files.map((f) => (
            <li key={f.id}>
              <FileLink file={f} />
            </li>
          ))}
        </ul>
      )}
      {l.trouble && (
        <p className={classes("mt-2 text-sm", QUIET.has(l.state) ? "text-soft" : "text-brick")}>
          {l.trouble}
        </p>
      )}
      {l.mayAnswer && <AnswerLetter id={l.id} person={person} to={l.from} />}
      {l.maySettle && <SettleMail id={l.id} />}
    </li>
  );
}

const QUIET: ReadonlySet<MailShown["state"]> = new Set(["waiting", "sending", "given"]);
