import { FileLink, FilesAtProvider } from "@/forms";
import type { Followed } from "@/services";
import { whenText } from "@/ui";
import { writeFollowedAction } from "../../actions/outside";
import { AnswerLetter } from "../../shell/AnswerLetter";
import { LetterParts } from "../../shell/LetterParts";

/** What was written between somebody outside and whoever deals with their request, like letters in a folder. */
export function LettersFollowed({
  token,
  letters,
  letterhead,
  zone,
}: {
  token: string;
  letters: Followed["letters"];
  letterhead: string;
  zone: string;
}) {
  if (letters.length === 0) return null;
  return (
    <section aria-labelledby="letters" className="mb-8">
      <h2 id="letters" className="mb-2">
        Letters
      </h2>
      <ol>
        {letters.map((l) => (
          <li key={l.id} className="border-t border-line py-3">
            <p className="flex flex-wrap items-baseline gap-x-3">
              <span className="tracking-wide [font-variant:small-caps]">
                {l.direction === "in" ? "you" : l.from}
              </span>
              <span className="ml-auto text-sm text-soft">{whenText(l.at, zone)}</span>
            </p>
            <h3 className="!text-base break-words">{l.subject}</h3>
            {l.parts ? (
              <LetterParts parts={l.parts} />
            ) : (
              <p className="mt-1 max-w-prose break-words whitespace-pre-wrap">{l.text}</p>
            )}
            {l.files.length > 0 && (
              <ul className="mt-1">
                {l.files.map((f) => (
                  <li key={f.id}>
                    <FilesAtProvider value={{ to: `/api/follow/${token}/files` }}>
                      <FileLink file={f} />
                    </FilesAtProvider>
                  </li>
                ))}
              </ul>
            )}
            {l.mayAnswer && (
              <AnswerLetter
                id={l.id}
                person="outside"
                to={letterhead}
                write={writeFollowedAction.bind(null, token)}
              />
            )}
          </li>
        ))}
      </ol>
    </section>
  );
}
