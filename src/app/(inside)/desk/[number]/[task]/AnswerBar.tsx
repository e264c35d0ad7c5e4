import { useRouter } from "next/navigation";
import type { AnswersAt } from "@/core/form";
import { Banner, Button } from "@/ui";
import { PersonPicker } from "../../../../shell/PersonPicker";
import { TONE_LOOK } from "../../../../shell/toneLook";

/** One way to answer, and what comes of it in words. */
export interface Answered {
  id: string;
  label: string;
  tone: "agree" | "refuse" | "plain";
  note: boolean;
  returns: boolean;
  then: string;
}

const LIES: Record<AnswersAt | "foot", string> = {
  foot: "z-10 mt-6 border-t border-line-strong bg-ground pt-3 pb-3 md:sticky md:bottom-0",
  top: "mb-6 border-b border-line-strong pb-3",
  end: "mt-6 border-t border-line-strong pt-3",
};

interface Props {
  at: AnswersAt | "foot";
  question: string;
  /** How far what was typed is kept. */
  kept: string;
  /** Why an answer was not taken; `over`: there is nothing to be answered any more. */
  said: { sentence: string; over: boolean } | null;
  answers: readonly Answered[];
  /** Whether all of a guided form has been gone through. */
  ended: boolean;
  busy: boolean;
  note: string;
  onNote(note: string): void;
  onAnswer(answer: Answered): void;
  onHandOver(): void;
  /** Absent where nobody can be asked anything. */
  onAsk?(): void;
  placeholder: string;
  /** Whether whoever the note mentions is told. */
  mentions: boolean;
}

/** A note with somebody mentioned at its end. */
const mentioning = (note: string, name: string): string =>
  `${note}${note === "" || /\s$/.test(note) ? "" : " "}@${name} `;

/** The note and the answers of a task. */
export function AnswerBar(p: Props) {
  const router = useRouter();
  return (
    <section
      aria-labelledby="answer"
      {...(p.at === "foot" ? { "data-foot": true } : {})}
      className={LIES[p.at]}
    >
      <div className="mb-1.5 flex items-center gap-3">
        <h2 id="answer" className="!text-base">
          {p.question}
        </h2>
        <p role="status" className="min-w-0 flex-1 truncate text-sm text-soft">
          {p.kept}
        </p>
        {p.onAsk && (
          <Button small look="quiet" disabled={p.busy} onClick={p.onAsk}>
            Ask somebody…
          </Button>
        )}
        <Button small look="quiet" disabled={p.busy} onClick={p.onHandOver}>
          Hand over…
        </Button>
      </div>
      {p.said && (
        <Banner tone="bad">
          {p.said.sentence}
          {p.said.over && (
            <>
              {" "}
              <button type="button" className="link" onClick={() => router.push("/desk")}>
                Back to the desk
              </button>
            </>
          )}
        </Banner>
      )}
      {!p.ended && (
        <p className="text-soft">
          The answers ({p.answers.map((a) => a.label).join(", ")}) come at the end, where everything is looked
          over.
        </p>
      )}
      <label htmlFor="note" className="sr-only">
        Note
      </label>
      <textarea
        id="note"
        rows={p.note.includes("\n") || p.note.length > 80 ? 3 : 1}
        className="input mb-2 max-w-3xl"
        value={p.note}
        onChange={(e) => p.onNote(e.target.value)}
        placeholder={p.placeholder}
      />
      {p.mentions && (
        <div className="mb-2 flex max-w-3xl flex-wrap items-center gap-x-3 gap-y-1 text-sm text-soft">
          <span>
            <label htmlFor="mention">Mention somebody</label>: they are told, and may look at the request
          </span>
          <span className="w-56">
            <PersonPicker
              id="mention"
              label="Mention somebody"
              value={null}
              placeholder="Choose a colleague"
              onPick={(o) => o && p.onNote(mentioning(p.note, o.name))}
            />
          </span>
        </div>
      )}
      <div className="flex flex-wrap items-start gap-3">
        {(p.ended ? p.answers : []).map((a) => (
          <div key={a.id}>
            <Button
              look={TONE_LOOK[a.tone]}
              disabled={p.busy}
              onClick={() => p.onAnswer(a)}
              aria-describedby={`then-${a.id}`}
            >
              {a.label}
            </Button>
            <p id={`then-${a.id}`} className="mt-0.5 max-w-52 text-sm leading-snug text-soft">
              {a.then}
              {a.note ? "; needs a note" : ""}
            </p>
          </div>
        ))}
      </div>
    </section>
  );
}
