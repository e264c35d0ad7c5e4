"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import { rebase, type Clash, type FormData, type FormProblem } from "@/core/form";
import { FormView, shownValue, type FormSource } from "@/forms";
import { Banner, Button, useAlive } from "@/ui";
import { dropRecordDraftAction, saveRecordAction, saveRecordDraftAction } from "../../../actions/records";
import { lookUpAction } from "../../../actions/requests";
import { say } from "../../../shell/say";
import { useKept } from "../../../shell/useKept";
import { usePhone } from "../../../shell/usePhone";

export interface Editing {
  register: string;
  /** Null of a new one. */
  id: string | null;
  one: string;
  source: FormSource & { data: FormData };
  version: string | null;
  draft: { typed: FormData; base: FormData; version: string | null } | null;
}

/** A record being filled in: checked as it is typed, kept on one press, and nobody's change written over unseen. */
export function RecordEditor({ register, id, one, source, version, draft }: Editing) {
  const router = useRouter();
  const over = draft && rebase(source.form.fields, draft.base, source.data, draft.typed);
  const [data, setData] = useState<FormData>(over?.data ?? source.data);
  const [base, setBase] = useState({ data: source.data, version });
  const [clashes, setClashes] = useState<Clash[]>(over?.clashes ?? []);
  const [said, setSaid] = useState<{ sentence: string; problems: FormProblem[] } | null>(null);
  const [complain, setComplain] = useState(false);
  const [working, start] = useTransition();
  const phone = usePhone();
  const back = `/registers/${register}${id === null ? "" : `/${id}`}`;
  const kept = useKept(data, (typed) =>
    saveRecordDraftAction(register, id, { typed, base: base.data, version: base.version }),
  );
  // The page fetched itself anew: what was typed is put onto what is there now, and what both changed is shown.
  if (version !== base.version) {
    const now = rebase(source.form.fields, base.data, source.data, data);
    setBase({ data: source.data, version });
    setData(now.data);
    setClashes(now.clashes);
  }
  const send = () =>
    start(async () => {
      setComplain(false);
      const mine = Object.fromEntries(Object.entries(data).filter(([c]) => source.access[c] === "edit"));
      const r = await saveRecordAction(register, id, base.version, mine).catch(() => null);
      if (!r)
        return setSaid({
          sentence: "The server could not be reached. What you typed is still here; try again in a moment.",
          problems: [],
        });
      if (!r.ok) {
        setSaid(r);
        setComplain(r.code === "form");
        if (r.code === "changed-since") router.refresh();
        return;
      }
      kept.stop();
      say(id === null ? `The ${one} is added.` : `The ${one} is changed.`);
      router.push(`/registers/${register}/${r.value.id}`);
    });
  const alive = useAlive();
  const press = id === null ? `Add this ${one}` : "Keep";
  const nameOf = (field: string) => source.form.fields.find((f) => f.id === field);
  return (
    <form
      noValidate
      inert={!alive}
      className="max-w-3xl"
      aria-label={id === null ? `New ${one}` : `Change this ${one}`}
      onSubmit={(e) => {
        e.preventDefault();
        send();
      }}
    >
      {draft && <Banner tone="info">This is what you had typed before. It was kept for you.</Banner>}
      {clashes.length > 0 && (
        <Banner tone="bad">
          Somebody else changed the same as you. Yours stands in the form; theirs is{" "}
          {clashes.map((c, i) => {
            const f = nameOf(c.field);
            return (
              <span key={c.field}>
                {i > 0 && ", "}
                {f?.name}: <strong>{(f && shownValue(f, c.theirs, source.facts)) || "empty"}</strong>
              </span>
            );
          })}
          . Keep yours by pressing again, or type theirs.
        </Banner>
      )}
      {said && <Banner tone="bad">{said.sentence}</Banner>}
      <FormView
        source={source}
        data={data}
        onChange={setData}
        lookUp={lookUpAction}
        complain={complain}
        extraProblems={said?.problems ?? []}
        width={phone ? "phone" : "desk"}
      />
      <div className="mt-6 flex flex-wrap items-center gap-3 border-t border-line pt-4">
        <Button look="main" type="submit" disabled={working}>
          {working ? "Keeping…" : press}
        </Button>
        <Button
          look="quiet"
          onClick={() => {
            kept.stop();
            void dropRecordDraftAction(register, id).then(() => router.push(back));
          }}
        >
          {id === null ? "Throw away" : "Leave as it was"}
        </Button>
        <span role="status" className="text-sm text-soft">
          {kept.sentence}
        </span>
      </div>
    </form>
  );
}
