"use client";
import { useRouter } from "next/navigation";
import { useCallback, useMemo, useState, useTransition } from "react";
import { rebase, type FormData, type FormProblem, type Rebased } from "@/core/form";
import type { Limit } from "@/core/route";
import { FormView, onlyEditable, wontGo, type FormAsk, type FormSource } from "@/forms";
import { Button, useAlive } from "@/ui";
import {
  actAction,
  askAtTaskAction,
  lookUpAction,
  saveTaskDraftAction,
  type CommandInput,
} from "../../../../actions/requests";
import type { AnewSeen } from "@/web";
import { AnewDialog } from "../../../../shell/AnewDialog";
import { HandOver } from "../../../../shell/HandOver";
import { usePassed } from "../../../../shell/usePassed";
import { useKept } from "../../../../shell/useKept";
import { usePhone } from "../../../../shell/usePhone";
import { say } from "../../../../shell/say";
import { UnkeptFound } from "../../../../shell/UnkeptFound";
import { AnswerBar, type Answered } from "./AnswerBar";
import { AskSomebody } from "./AskSomebody";
import { Meanwhile } from "./Meanwhile";

interface Props {
  number: string;
  task: { id: string; shared: boolean; taken: boolean; purpose: string; stands: Limit["still"] | null };
  answers: Answered[];
  source: FormSource & { data: FormData; before: FormData };
  /** The event after which what is kept was read. */
  seen: number;
  meanwhile: Pick<Rebased, "changed" | "clashes">;
  note: string;
  draftId: string;
  /** Who answers, and when what they typed was kept last. */
  person: string;
  draftAt: number | null;
  question: string;
  /** Whether something is signed here, which nobody else does for a while. */
  signs?: boolean;
  /** Whether whoever the note mentions is told. */
  mentions?: boolean;
  /** Who made the request, where they can be asked something; undefined where nobody is asked from here. */
  asker?: { id: string; name: string } | null;
}

/** What was typed, and what it was typed over, as it is held in the browser. */
interface Held {
  data: FormData;
  note: string;
  base: FormData;
}

export function AnswerForm({
  number,
  task,
  answers,
  source,
  seen,
  meanwhile: before,
  note: firstNote,
  draftId,
  person,
  draftAt,
  question,
  signs = false,
  mentions = false,
  asker,
}: Props) {
  const router = useRouter();
  const phone = usePhone();
  const alive = useAlive();
  const { passed, onPass } = usePassed(draftId);
  const [kept0] = useState(() => ({ data: source.data, note: firstNote }));
  const [typed, setTyped] = useState(kept0);
  const stored = source.before;
  const [base, setBase] = useState({ data: stored, seen });
  const [meanwhile, setMeanwhile] = useState(before);
  const [complain, setComplain] = useState(false);
  const [said, setSaid] = useState<{ sentence: string; problems: FormProblem[]; code: string } | null>(null);
  const [handing, setHanding] = useState(false);
  const [asking, setAsking] = useState(false);
  const [anew, setAnew] = useState<{ answer: Answered; seen: AnewSeen } | null>(null);
  const [working, start] = useTransition();
  const [files, setFiles] = useState(0);
  const [ended, setEnded] = useState(source.layout?.shows !== "guided" || !editableIn(source));
  const busy = working || files > 0;
  const editable = useMemo(() => editableIn(source), [source]);
  const ask = useCallback<FormAsk>(
    (d, q) => askAtTaskAction(number, task.id, onlyEditable(d, source), q),
    [number, task.id, source],
  );
  const kept = useKept(
    typed,
    async (t) =>
      wontGo(source, t.data) ??
      saveTaskDraftAction(
        number,
        task.id,
        draftId,
        editable ? onlyEditable(t.data, source) : {},
        base.data,
        t.note,
      ),
    {
      place: `${person} answer ${number} ${task.id}`,
      over: draftAt,
      held: (t): Held => ({ data: onlyEditable(t.data, source), note: t.note, base: base.data }),
      put(held) {
        const was = held as Held;
        // Others may have changed what it was typed over.
        const over = rebase(source.form.fields, was.base, stored, {
          ...was.base,
          ...onlyEditable(was.data, source),
        });
        setTyped((t) => ({
          data: { ...t.data, ...onlyEditable(over.data, source) },
          note: String(was.note ?? ""),
        }));
        if (over.changed.length > 0) setMeanwhile((m) => together(m, over));
      },
    },
  );
  // The page fetched itself anew: what was typed is put onto what is there now, and what changed is said.
  if (seen > base.seen) {
    const over = rebase(source.form.fields, base.data, stored, typed.data);
    setBase({ data: stored, seen });
    setTyped((t) => ({ ...t, data: over.data }));
    if (over.changed.length > 0) setMeanwhile(together(meanwhile, over));
  }

  const send = (
    input: CommandInput,
    done: (next: string | null) => void,
    onAnew: (seen: AnewSeen) => void = () => undefined,
  ) =>
    start(async () => {
      setComplain(false);
      const large = input.type === "answer" ? wontGo(source, typed.data) : null;
      if (large) return setSaid({ ...large, code: "form" });
      const r = await actAction(number, input).catch(() => null);
      if (!r)
        return setSaid({
          sentence: "The server could not be reached. Nothing is lost; try again in a moment.",
          problems: [],
          code: "",
        });
      if (!r.ok && r.anew) {
        setSaid(null);
        return onAnew(r.anew);
      }
      if (!r.ok) {
        setAnew(null);
        setSaid(r);
        if (r.code === "form") setComplain(true);
        if (r.code === "changed-since") router.refresh();
        return;
      }
      kept.stop();
      done(null);
    });
  const answer = (a: Answered, saw?: AnewSeen) => {
    const needsNote = answers.some((x) => x.id === a.id && x.note);
    if (needsNote && !typed.note.trim()) {
      const sentence =
        asker === undefined
          ? "Write what you say first; then press once more."
          : `“${a.label}” needs a note that says why.`;
      setSaid({ sentence, problems: [], code: "note-needed" });
      document.getElementById("note")?.focus();
      return;
    }
    send(
      {
        type: "answer",
        task: task.id,
        answer: a.id,
        note: typed.note,
        data: editable ? onlyEditable(typed.data, source) : {},
        seen: base.seen,
        ...(Object.keys(passed).length > 0 ? { passed } : {}),
        ...(saw ? { anew: Object.fromEntries(saw.changes.map((c) => [c.path, c.value])) } : {}),
      },
      () => {
        say(`${number}: ${a.label}.`);
        router.push("/desk");
      },
      (seen) => setAnew({ answer: a, seen }),
    );
  };
  const over = said && ["already-answered", "taken-by-other", "ended", "not-yours"].includes(said.code);

  const at = source.layout?.answers ?? "foot";
  const bar = (
    <AnswerBar
      at={at}
      question={question}
      kept={files > 0 ? "A file is on its way; then you can answer." : kept.sentence}
      said={said && { sentence: said.sentence, over: over === true }}
      answers={
        asker === undefined ? answers.map((a) => ({ ...a, tone: "agree" as const, note: false })) : answers
      }
      ended={ended}
      busy={busy}
      note={typed.note}
      onNote={(note) => setTyped((t) => ({ ...t, note }))}
      onAnswer={answer}
      onHandOver={() => setHanding(true)}
      {...(asker === undefined ? {} : { onAsk: () => setAsking(true) })}
      placeholder={
        asker === undefined
          ? "What you say: everybody who sees the request can read it"
          : "Note: everybody who sees the request can read it"
      }
      mentions={mentions}
    />
  );
  return (
    <div data-touch inert={!alive}>
      {task.shared && (
        <div className="mb-4 flex flex-wrap items-center gap-3 border-l-[3px] border-slate bg-slate-wash px-3 py-2">
          <span className="flex-1">
            {task.taken
              ? "You have taken this task; your colleagues do not see it on their desks."
              : "Several people could answer this. Take it, so that nobody does it twice."}
          </span>
          {task.taken ? (
            <Button
              small
              disabled={busy}
              onClick={() => send({ type: "put back", task: task.id }, () => router.refresh())}
            >
              Put back
            </Button>
          ) : (
            <Button
              small
              disabled={busy}
              onClick={() => send({ type: "take", task: task.id }, () => router.refresh())}
            >
              Take
            </Button>
          )}
        </div>
      )}
      <UnkeptFound found={kept.found} />
      {at === "top" && bar}
      <FormView
        source={source}
        data={typed.data}
        {...(editable ? { onChange: (data: FormData) => setTyped((t) => ({ ...t, data })) } : {})}
        lookUp={lookUpAction}
        ask={ask}
        complain={complain}
        extraProblems={said?.problems ?? []}
        passed={passed}
        {...(editable ? { onPass } : {})}
        onSending={setFiles}
        width={phone ? "phone" : "desk"}
        shows="together"
        onEnd={setEnded}
      />
      <Meanwhile
        {...meanwhile}
        fields={source.form.fields}
        facts={source.facts}
        onTake={(data) => setTyped((t) => ({ ...t, data }))}
        data={typed.data}
        onSettle={(clash) => setMeanwhile((m) => ({ ...m, clashes: m.clashes.filter((c) => c !== clash) }))}
      />
      {at !== "top" && bar}
      {anew && (
        <AnewDialog
          answer={anew.answer.label}
          anew={anew.seen}
          busy={busy}
          onAgree={() => answer(anew.answer, anew.seen)}
          onLeave={() => setAnew(null)}
        />
      )}
      {asker !== undefined && (
        <AskSomebody
          open={asking}
          onOpenChange={setAsking}
          number={number}
          task={task.id}
          asker={asker}
          stands={task.stands}
        />
      )}
      <HandOver
        open={handing}
        onOpenChange={setHanding}
        busy={busy}
        {...(asker === undefined || signs ? {} : { mayReturn: true })}
        onHand={(to, note, back) => {
          setHanding(false);
          send({ type: "hand over", task: task.id, to: to.id, note, ...(back ? { back } : {}) }, () => {
            say(`${number} is with ${to.title} now${back ? ", and comes back to you" : ""}.`);
            router.push("/desk");
          });
        }}
      />
    </div>
  );
}

const together = (a: Props["meanwhile"], b: Props["meanwhile"]): Props["meanwhile"] => ({
  changed: [...new Set([...a.changed, ...b.changed])],
  clashes: [...a.clashes, ...b.clashes],
});

const editableIn = (source: FormSource): boolean => Object.values(source.access).includes("edit");
