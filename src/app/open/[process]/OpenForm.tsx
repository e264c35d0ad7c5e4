"use client";
import { useRouter } from "next/navigation";
import { useEffect, useMemo, useRef, useState, useTransition } from "react";
import type { FormData, FormProblem } from "@/core/form";
import { FilesAtProvider, FormView, wontGo, type FormAsk, type FormSource } from "@/forms";
import { Banner, Button } from "@/ui";
import { askAtOpenAction, openAgainAction, openLookUpAction, sendOpenAction } from "../../actions/outside";
import { usePassed } from "../../shell/usePassed";
import { usePhone } from "../../shell/usePhone";
import { AddressAsked } from "./AddressAsked";
import { useOpenDraft } from "./useOpenDraft";

interface Props {
  process: string;
  asks: "nothing" | "address" | "confirmed";
  source: FormSource & { data: FormData };
}

const UNREACHED =
  "The server could not be reached. What you typed is kept in this browser; try again in a moment.";

/** A form that somebody outside fills in and sends; what they type is kept in their browser until then. */
export function OpenForm({ process, asks, source }: Props) {
  const router = useRouter();
  const draft = useOpenDraft(process, source.data);
  const [again, setAgain] = useState<FormSource | null>(null);
  const [code, setCode] = useState("");
  const [trap, setTrap] = useState("");
  const [complain, setComplain] = useState(false);
  const [said, setSaid] = useState<{ sentence: string; problems: FormProblem[] } | null>(null);
  const [files, setFiles] = useState(0);
  const [ended, setEnded] = useState(source.layout?.shows !== "guided");
  const [sending, start] = useTransition();
  const phone = usePhone();
  const { passed, onPass } = usePassed(`open ${draft.now?.visit ?? ""}`);
  const { now, before, put } = draft;
  // What was kept points at records and files that this page knows nothing of yet.
  const asked = useRef(false);
  useEffect(() => {
    if (!before || !now || asked.current) return;
    asked.current = true;
    void openAgainAction(process, now.visit, now.data)
      .then((r) => r.ok && setAgain(r.value))
      .catch(() => undefined);
  }, [before, now, process]);
  const name = now?.name ?? "";
  const email = now?.email ?? "";
  const shown = useMemo((): FormSource => {
    const base = again ?? source;
    const { requester } = base;
    return { ...base, requester: requester.kind === "outside" ? { ...requester, name, email } : requester };
  }, [again, source, name, email]);
  if (!now)
    return (
      <p className="text-soft" role="status">
        The form opens…
      </p>
    );
  const send = () =>
    start(async () => {
      setComplain(false);
      const { visit, data } = now;
      const large = wontGo(source, data);
      if (large) return setSaid(large);
      const r = await sendOpenAction(process, visit, { name, email, code, trap, data, passed }).catch(
        () => null,
      );
      setTrap("");
      if (!r) return setSaid({ sentence: UNREACHED, problems: [] });
      if (!r.ok) {
        setComplain(true);
        return setSaid(r);
      }
      draft.clear();
      if (r.value.token === null)
        return setSaid({
          sentence: `This was sent already, as ${r.value.number}. Look for the letter with its link.`,
          problems: [],
        });
      router.replace(`/follow/${r.value.token}?sent=1`);
    });
  const ask: FormAsk = (d, q) => askAtOpenAction(process, d, q);
  const waiting = files > 0 ? "A file is on its way…" : "Send";
  return (
    <FilesAtProvider value={{ to: `/api/open/${encodeURIComponent(process)}/files`, visit: now.visit }}>
      <form
        noValidate
        onSubmit={(e) => {
          e.preventDefault();
          if (files === 0 && ended) send();
        }}
      >
        {before && (
          <Banner tone="info">
            This is what you had typed before; it is kept in this browser alone.{" "}
            <button type="button" className="underline" onClick={() => draft.clear()}>
              Throw it away
            </button>
          </Banner>
        )}
        {said && <Banner tone="bad">{said.sentence}</Banner>}
        {asks !== "nothing" && (
          <AddressAsked
            process={process}
            visit={now.visit}
            name={name}
            email={email}
            code={asks === "confirmed" ? { value: code, set: setCode } : null}
            onChange={put}
          />
        )}
        <FormView
          source={shown}
          data={now.data}
          onChange={(data) => put({ data })}
          lookUp={openLookUpAction}
          ask={ask}
          complain={complain}
          extraProblems={said?.problems ?? []}
          passed={passed}
          onPass={onPass}
          onSending={setFiles}
          onEnd={setEnded}
          next={[]}
          width={phone ? "phone" : "desk"}
        />
        {/* Nobody sees it, hears of it or comes to it by a key: whatever fills it in is a program. */}
        <div aria-hidden className="absolute -left-[9999px] h-px w-px overflow-hidden">
          <label>
            Leave this empty
            <input
              type="text"
              name="homepage"
              tabIndex={-1}
              autoComplete="off"
              value={trap}
              onChange={(e) => setTrap(e.target.value)}
            />
          </label>
        </div>
        <div className="mt-6 flex flex-wrap items-center gap-3 border-t border-line pt-4">
          {ended && (
            <Button look="main" type="submit" disabled={sending || files > 0}>
              {sending ? "Sending…" : waiting}
            </Button>
          )}
          <span className="text-sm text-soft">What you type is kept in this browser until you send it.</span>
        </div>
      </form>
    </FilesAtProvider>
  );
}
