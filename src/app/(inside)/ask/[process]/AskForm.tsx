"use client";
import { useRouter } from "next/navigation";
import { useCallback, useState, useTransition } from "react";
import type { FormData, FormProblem } from "@/core/form";
import { FormView, onlyEditable, wontGo, type FormAsk, type FormSource } from "@/forms";
import { Banner, Button, useAlive } from "@/ui";
import {
  askAtStartAction,
  dropAskDraftAction,
  lookUpAction,
  saveAskDraftAction,
  startAction,
} from "../../../actions/requests";
import { usePassed } from "../../../shell/usePassed";
import { useKept } from "../../../shell/useKept";
import { usePhone } from "../../../shell/usePhone";
import { say } from "../../../shell/say";
import { UnkeptFound } from "../../../shell/UnkeptFound";

export function AskForm({
  process,
  draftId,
  person,
  source,
  restoredAt,
  press,
  back,
  next,
  saysAfter,
}: {
  process: string;
  draftId: string;
  /** Who fills it in. */
  person: string;
  source: FormSource & { data: FormData };
  /** When what is in it was kept; null where it is new. */
  restoredAt: number | null;
  /** What was pressed on a record's page. */
  press: { start: string; record: string } | null;
  /** What comes of it once it is sent, in words. */
  next: string;
  /** Whether there is something to be read once it is sent. */
  saysAfter: boolean;
  /** Where whoever throws it away goes. */
  back: string;
}) {
  const router = useRouter();
  const [data, setData] = useState(source.data);
  const [complain, setComplain] = useState(false);
  const [said, setSaid] = useState<{ sentence: string; problems: FormProblem[] } | null>(null);
  const [sending, start] = useTransition();
  const [files, setFiles] = useState(0);
  // A guided form is sent from its end, where all of it is looked over.
  const [ended, setEnded] = useState(source.layout?.shows !== "guided");
  const phone = usePhone();
  const alive = useAlive();
  const { passed, onPass } = usePassed(draftId);
  const waiting = files > 0 ? "A file is on its way…" : null;
  const sendingWord = sending ? "Sending…" : waiting;
  const ask = useCallback<FormAsk>((d, q) => askAtStartAction(process, press, d, q), [process, press]);
  const kept = useKept(
    data,
    async (d) => wontGo(source, d) ?? saveAskDraftAction(process, draftId, d, press),
    {
      place: `${person} ask ${draftId}`,
      over: restoredAt,
      held: (d) => onlyEditable(d, source),
      put: (held) => setData((d) => ({ ...d, ...onlyEditable(held as FormData, source) })),
    },
  );
  const send = () =>
    start(async () => {
      setComplain(false);
      const r =
        wontGo(source, data) ?? (await startAction(process, draftId, data, press, passed).catch(() => null));
      if (!r)
        return setSaid({
          sentence: "The server could not be reached. What you typed is still here; try again in a moment.",
          problems: [],
        });
      if (!r.ok) {
        setComplain(true);
        setSaid(r);
        return;
      }
      kept.stop();
      say(`Sent as ${r.value.number}.`);
      const { number } = r.value;
      router.push(saysAfter ? `/ask/${encodeURIComponent(process)}/sent/${number}` : `/requests/${number}`);
    });
  return (
    <form
      noValidate
      inert={!alive}
      onSubmit={(e) => {
        e.preventDefault();
        if (files === 0 && ended) send();
      }}
    >
      {restoredAt !== null && !kept.found && (
        <Banner tone="info">This is what you had typed before. It was kept for you.</Banner>
      )}
      <UnkeptFound found={kept.found} />
      {said && <Banner tone="bad">{said.sentence}</Banner>}
      <FormView
        source={source}
        data={data}
        onChange={setData}
        lookUp={lookUpAction}
        ask={ask}
        complain={complain}
        extraProblems={said?.problems ?? []}
        passed={passed}
        onPass={onPass}
        onSending={setFiles}
        onEnd={setEnded}
        next={[`${next[0]!.toUpperCase()}${next.slice(1)}.`]}
        width={phone ? "phone" : "desk"}
      />
      <div className="mt-6 flex flex-wrap items-center gap-3 border-t border-line pt-4">
        {ended && (
          <Button look="main" type="submit" disabled={sending || files > 0}>
            {sendingWord ?? "Send request"}
          </Button>
        )}
        <Button
          look="quiet"
          onClick={() => {
            kept.stop();
            void dropAskDraftAction(draftId).then(() => router.push(back));
          }}
        >
          Throw away
        </Button>
        <span role="status" className="text-sm text-soft">
          {kept.sentence}
        </span>
      </div>
    </form>
  );
}
