"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import { rebase, type FormData, type FormProblem } from "@/core/form";
import { FilesAtProvider, FormView, onlyEditable, wontGo, type FormAsk } from "@/forms";
import type { AskedOutside } from "@/services";
import { Banner, Button, useAlive } from "@/ui";
import type { AnewSeen } from "@/web";
import { answerOutsideAction } from "../../actions/answers";
import { askFollowedAction, keepChangedAction, openLookUpAction } from "../../actions/outside";
import { AnewDialog } from "../../shell/AnewDialog";
import { TONE_LOOK } from "../../shell/toneLook";
import { UnkeptFound } from "../../shell/UnkeptFound";
import { useKept } from "../../shell/useKept";
import { usePassed } from "../../shell/usePassed";
import { usePhone } from "../../shell/usePhone";

type Answer = AskedOutside["answers"][number];

/** What was typed, and what it was typed over, as it is held in the browser. */
interface Held {
  data: FormData;
  base: FormData;
  note: string;
}

/** The form and the answers of somebody outside who is asked at a step. */
export function AskedForm({ token, asked }: { token: string; asked: AskedOutside }) {
  const { task, draftId, draftAt, form, seen, answers } = asked;
  const router = useRouter();
  const [typed, setTyped] = useState({ data: form.data, note: asked.note });
  const [complain, setComplain] = useState(false);
  const [said, setSaid] = useState<{ sentence: string; problems: FormProblem[] } | null>(null);
  const [files, setFiles] = useState(0);
  const editable = Object.values(form.access).includes("edit");
  const [ended, setEnded] = useState(form.layout?.shows !== "guided" || !editable);
  const [done, setDone] = useState<string | null>(null);
  const [anew, setAnew] = useState<{ answer: Answer; seen: AnewSeen } | null>(null);
  const [sending, start] = useTransition();
  const { passed, onPass } = usePassed(draftId);
  const phone = usePhone();
  const alive = useAlive();
  const theirs = (d: FormData): FormData => onlyEditable(d, form);
  const ask: FormAsk = (d, q) => askFollowedAction(token, task, theirs(d), q);
  const kept = useKept(
    typed,
    async (t) =>
      wontGo(form, t.data) ?? keepChangedAction(token, task, draftId, theirs(t.data), form.before, t.note),
    {
      // Which link it came by, without what opens it.
      place: `answer ${token.slice(0, 8)} ${task}`,
      over: draftAt,
      held: (t): Held => ({ data: theirs(t.data), base: form.before, note: t.note }),
      put(held) {
        const was = held as Held;
        const over = rebase(form.form.fields, was.base, form.before, { ...was.base, ...theirs(was.data) });
        setTyped((t) => ({ data: { ...t.data, ...theirs(over.data) }, note: String(was.note ?? "") }));
      },
    },
  );
  const send = (a: Answer, saw: AnewSeen | null) =>
    start(async () => {
      setComplain(false);
      if (a.note && !typed.note.trim()) {
        setSaid({ sentence: `“${a.label}” needs a few words that say why.`, problems: [] });
        document.getElementById("note")?.focus();
        return;
      }
      const large = wontGo(form, typed.data);
      if (large) return setSaid(large);
      const r = await answerOutsideAction(token, {
        answer: a.id,
        note: typed.note,
        data: theirs(typed.data),
        seen,
        passed,
        saw: saw && Object.fromEntries(saw.changes.map((c) => [c.path, c.value])),
      }).catch(() => null);
      if (!r)
        return setSaid({
          sentence: "The server could not be reached. Nothing is lost; try again in a moment.",
          problems: [],
        });
      if (!r.ok && r.anew) {
        setSaid(null);
        return setAnew({ answer: a, seen: r.anew });
      }
      setAnew(null);
      if (!r.ok) {
        setComplain(r.code === "form");
        setSaid(r);
        if (r.code === "changed-since") router.refresh();
        return;
      }
      kept.stop();
      setDone(r.value.label);
    });
  if (done !== null)
    return (
      <p role="status" className="text-lg">
        Thank you. Your answer is kept: <strong>{done}</strong>. You can close this page.
      </p>
    );
  return (
    <FilesAtProvider value={{ to: `/api/follow/${token}/files` }}>
      <form noValidate inert={!alive} onSubmit={(e) => e.preventDefault()}>
        <UnkeptFound found={kept.found} />
        <FormView
          source={form}
          data={typed.data}
          {...(editable ? { onChange: (data: FormData) => setTyped((t) => ({ ...t, data })) } : {})}
          lookUp={openLookUpAction}
          ask={ask}
          complain={complain}
          extraProblems={said?.problems ?? []}
          passed={passed}
          {...(editable ? { onPass } : {})}
          onSending={setFiles}
          onEnd={setEnded}
          width={phone ? "phone" : "desk"}
        />
        <section aria-labelledby="answer" className="mt-6 border-t border-line-strong pt-4">
          <h2 id="answer" className="mb-2">
            Your answer
          </h2>
          {said && <Banner tone="bad">{said.sentence}</Banner>}
          {!ended && (
            <p className="text-soft">
              The answers ({answers.map((a) => a.label).join(", ")}) come at the end, where everything is
              looked over.
            </p>
          )}
          <label className="mb-3 block" htmlFor="note">
            <span className="mb-1 block">
              Note <span className="text-sm text-soft">if you want to say something</span>
            </span>
            <textarea
              id="note"
              className="input"
              rows={3}
              maxLength={4000}
              value={typed.note}
              onChange={(e) => setTyped((t) => ({ ...t, note: e.target.value }))}
            />
          </label>
          <div className="flex flex-wrap items-center gap-3">
            {(ended ? answers : []).map((a) => (
              <Button
                key={a.id}
                look={TONE_LOOK[a.tone]}
                disabled={sending || files > 0}
                onClick={() => send(a, null)}
              >
                {a.label}
              </Button>
            ))}
            <span role="status" className="text-sm text-soft">
              {files > 0 ? "A file is on its way; then you can answer." : kept.sentence}
            </span>
          </div>
        </section>
      </form>
      {anew && (
        <AnewDialog
          answer={anew.answer.label}
          anew={anew.seen}
          busy={sending}
          onAgree={() => send(anew.answer, anew.seen)}
          onLeave={() => setAnew(null)}
        />
      )}
    </FilesAtProvider>
  );
}
