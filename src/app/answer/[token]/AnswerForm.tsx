"use client";
import { useState, useTransition } from "react";
import type { AnswerLink } from "@/services";
import { Banner, Button, RadioGroup } from "@/ui";
import type { AnewSeen } from "@/web";
import { AnewList } from "../../shell/AnewList";
import { answerByLinkAction } from "../../actions/answers";

const sawOf = ({ changes }: AnewSeen) => Object.fromEntries(changes.map((c) => [c.path, c.value]));

type Answer = Extract<AnswerLink, { is: "open" }>["answers"][number];

/** What can be answered, what would happen, and the press by which it does. */
export function AnswerForm({
  token,
  answers,
  first,
}: {
  token: string;
  answers: Answer[];
  /** The one the mail's link named. */
  first: string | null;
}) {
  const [picked, setPicked] = useState(answers.find((a) => a.id === first)?.id ?? null);
  const [note, setNote] = useState("");
  const [wrong, setWrong] = useState("");
  const [done, setDone] = useState<string | null>(null);
  /** What the answer that was pressed reads anew, once its reader has been told. */
  const [anew, setAnew] = useState<{ answer: string; seen: AnewSeen } | null>(null);
  const [busy, start] = useTransition();
  const answer = answers.find((a) => a.id === picked);
  if (done !== null)
    return (
      <p role="status" className="text-lg">
        Thank you. Your answer is kept: <strong>{done}</strong>.
      </p>
    );
  return (
    <form
      className="grid gap-4"
      onSubmit={(e) => {
        e.preventDefault();
        if (!answer) return setWrong("Choose an answer first.");
        if (answer.note && note.trim() === "")
          return setWrong(`“${answer.label}” needs a few words that say why.`);
        start(async () => {
          const saw = anew?.answer === answer.id ? sawOf(anew.seen) : null;
          const r = await answerByLinkAction(token, answer.id, note, saw).catch(() => null);
          if (!r)
            return setWrong("The server could not be reached. Nothing was done; try again in a moment.");
          if (r.ok) return setDone(r.value.label);
          setAnew(r.anew ? { answer: answer.id, seen: r.anew } : null);
          setWrong(r.anew ? "" : r.sentence);
        });
      }}
    >
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      <RadioGroup
        label="Your answer"
        value={picked}
        onPick={setPicked}
        options={answers.map((a) => ({ id: a.id, label: a.label, help: a.then }))}
      />
      <label className="block">
        <span className="mb-1 block">
          Note{" "}
          <span className="text-sm text-soft">
            {answer?.note ? "say why" : "if you want to say something"}
          </span>
        </span>
        <textarea
          className="input"
          rows={4}
          maxLength={4000}
          value={note}
          onChange={(e) => setNote(e.target.value)}
        />
      </label>
      {anew && anew.answer === picked && (
        <section role="status" className="border-l-[3px] border-slate pl-3">
          <p className="mb-2">
            With “{answer?.label}” values are read anew. Nothing has been answered yet: look at them, then
            press again.
          </p>
          <AnewList anew={anew.seen} />
        </section>
      )}
      <p>
        <Button look="main" type="submit" disabled={busy}>
          {answer ? `Answer: ${answer.label}` : "Answer"}
        </Button>
      </p>
    </form>
  );
}
