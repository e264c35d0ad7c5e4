"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import { rebase, type FormData, type FormProblem } from "@/core/form";
import { FilesAtProvider, FormView, onlyEditable, wontGo, type FormAsk } from "@/forms";
import type { Followed } from "@/services";
import { Banner, Button, useAlive } from "@/ui";
import {
  askFollowedAction,
  keepChangedAction,
  openLookUpAction,
  sendChangedAction,
} from "../../actions/outside";
import { useKept } from "../../shell/useKept";
import { usePassed } from "../../shell/usePassed";
import { usePhone } from "../../shell/usePhone";
import { UnkeptFound } from "../../shell/UnkeptFound";

/** The form of somebody outside who was asked to change what they sent. */
export function ChangesForm({
  token,
  changes: { task, draftId, draftAt, form, seen },
}: {
  token: string;
  changes: NonNullable<Followed["changes"]>;
}) {
  const router = useRouter();
  const [data, setData] = useState<FormData>(form.data);
  const [complain, setComplain] = useState(false);
  const [said, setSaid] = useState<{ sentence: string; problems: FormProblem[] } | null>(null);
  const [files, setFiles] = useState(0);
  const [ended, setEnded] = useState(form.layout?.shows !== "guided");
  const [sending, start] = useTransition();
  const { passed, onPass } = usePassed(draftId);
  const phone = usePhone();
  const alive = useAlive();
  const theirs = (d: FormData): FormData => onlyEditable(d, form);
  const ask: FormAsk = (d, q) => askFollowedAction(token, task, theirs(d), q);
  const kept = useKept(
    data,
    async (d) => wontGo(form, d) ?? keepChangedAction(token, task, draftId, theirs(d), form.before),
    {
      // Which link it came by, without what opens it.
      place: `follow ${token.slice(0, 8)} ${task}`,
      over: draftAt,
      held: (d) => ({ data: theirs(d), base: form.before }),
      put(held) {
        const was = held as { data: FormData; base: FormData };
        const over = rebase(form.form.fields, was.base, form.before, { ...was.base, ...theirs(was.data) });
        setData((d) => ({ ...d, ...theirs(over.data) }));
      },
    },
  );
  const send = () =>
    start(async () => {
      setComplain(false);
      const large = wontGo(form, data);
      if (large) return setSaid(large);
      const r = await sendChangedAction(token, task, theirs(data), seen, passed).catch(() => null);
      if (!r)
        return setSaid({
          sentence: "The server could not be reached. Nothing is lost; try again in a moment.",
          problems: [],
        });
      if (!r.ok) {
        setComplain(r.code === "form");
        setSaid(r);
        if (r.code === "changed-since") router.refresh();
        return;
      }
      kept.stop();
      router.refresh();
    });
  return (
    <FilesAtProvider value={{ to: `/api/follow/${token}/files` }}>
      <form
        noValidate
        inert={!alive}
        onSubmit={(e) => {
          e.preventDefault();
          if (files === 0 && ended) send();
        }}
      >
        {said && <Banner tone="bad">{said.sentence}</Banner>}
        <UnkeptFound found={kept.found} />
        <FormView
          source={form}
          data={data}
          onChange={setData}
          lookUp={openLookUpAction}
          ask={ask}
          complain={complain}
          extraProblems={said?.problems ?? []}
          passed={passed}
          onPass={onPass}
          onSending={setFiles}
          onEnd={setEnded}
          width={phone ? "phone" : "desk"}
        />
        <div className="mt-6 flex flex-wrap items-center gap-3 border-t border-line pt-4">
          {ended && (
            <Button look="main" type="submit" disabled={sending || files > 0}>
              {sending ? "Sending…" : "Send again"}
            </Button>
          )}
          <span role="status" className="text-sm text-soft">
            {kept.sentence}
          </span>
        </div>
      </form>
    </FilesAtProvider>
  );
}
