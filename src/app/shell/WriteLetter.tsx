"use client";
import { useRouter } from "next/navigation";
import { useEffect, useState, useTransition } from "react";
import type { MayWrite } from "@/services";
import { Button, Field, Select } from "@/ui";
import { letterByHandAction, sendByHandAction } from "../actions/mail";
import { LetterFiles, type AddedFile } from "./LetterFiles";
import { say } from "./say";

interface Written {
  /** The same over every try. */
  key: string;
  letter: string;
  to: string;
  subject: string;
  text: string;
  files: AddedFile[];
}
const fresh = (to: string): Written => ({
  key: crypto.randomUUID(),
  letter: "",
  to,
  subject: "",
  text: "",
  files: [],
});
/** What this browser kept; null where it is none of ours. */
function readKept(text: string | null): Written | null {
  try {
    const w = JSON.parse(text ?? "null") as Partial<Record<keyof Written, unknown>> | null;
    const whole =
      w && (["key", "letter", "to", "subject", "text"] as const).every((k) => typeof w[k] === "string");
    // One that was begun before letters had any has none.
    return whole
      ? { ...(w as Written), files: Array.isArray(w.files) ? (w.files as AddedFile[]) : [] }
      : null;
  } catch {
    return null;
  }
}
const LOST = "The server could not be reached. Nothing was sent and nothing is lost; try again in a moment.";

/**
 * A letter by hand: begun as one of the process's or empty, changed, sent. What is typed stays with this browser until it
 * is sent or put away.
 */
export function WriteLetter({ number, person, may }: { number: string; person: string; may: MayWrite }) {
  const at = `letter ${person} ${number}`;
  const [now, setNow] = useState<Written | null>(null);
  const [mistake, setMistake] = useState("");
  /** What stood there before a letter of the process took its place. */
  const [before, setBefore] = useState<Written | null>(null);
  const [busy, start] = useTransition();
  const router = useRouter();
  useEffect(() => {
    // What was begun is gone on with.
    const kept = readKept(window.localStorage.getItem(at));
    if (kept) setNow(kept);
  }, [at]);
  const put = (w: Written | null) => {
    setNow(w);
    if (w) window.localStorage.setItem(at, JSON.stringify(w));
    else window.localStorage.removeItem(at);
  };
  if (!now)
    return (
      <Button className="mt-2" onClick={() => put(fresh(may.to.length === 1 ? may.to[0]!.email : ""))}>
        Write a letter
      </Button>
    );
  const begin = (letter: string) => {
    if (letter === "") return put({ ...now, letter });
    start(async () => {
      const r = await letterByHandAction(number, letter).catch(() => null);
      if (r?.ok) {
        setBefore(now.text.trim() ? now : null);
        put({ ...now, letter, ...r.value });
        setMistake("");
      } else setMistake(r ? r.sentence : LOST);
    });
  };
  const send = () =>
    start(async () => {
      const { letter, to, ...rest } = now;
      const r = await sendByHandAction(number, {
        ...rest,
        letter: letter || null,
        to: to.split(/[,;\s]+/),
        files: rest.files.map((f) => f.id),
      }).catch(() => null);
      if (r?.ok) {
        put(null);
        setBefore(null);
        setMistake("");
        say("The letter is on its way.");
        router.refresh();
      } else setMistake(r ? r.sentence : LOST);
    });
  return (
    <form
      className="mt-2 grid max-w-prose gap-3 border-l-[3px] border-line-strong pl-4"
      aria-label="A letter"
      onSubmit={(e) => {
        e.preventDefault();
        send();
      }}
    >
      {may.letters.length > 0 && (
        <Field label="Begin with">
          {(p) => (
            <Select
              {...p}
              value={now.letter}
              disabled={busy}
              empty="an empty letter"
              onPick={begin}
              options={may.letters.map((l) => ({ value: l.id, label: l.name }))}
            />
          )}
        </Field>
      )}
      {before && (
        <p className="-mt-2 text-sm">
          <button
            type="button"
            className="min-h-6 underline"
            onClick={() => {
              put(before);
              setBefore(null);
            }}
          >
            Put back what stood there
          </button>
        </p>
      )}
      <Field label="To" help="One address, or several with commas; they see each other.">
        {(p) => (
          <input
            {...p}
            className="input"
            value={now.to}
            autoComplete="off"
            placeholder="registry@example.org"
            onChange={(e) => put({ ...now, to: e.target.value })}
          />
        )}
      </Field>
      {may.to.some((r) => r.email !== now.to) && (
        <p className="-mt-2 flex flex-wrap gap-x-4 text-sm">
          {may.to.map((r) => (
            <button
              key={r.email}
              type="button"
              className="min-h-6 underline"
              onClick={() => put({ ...now, to: r.email })}
            >
              {r.name ? `${r.name}, ${r.email}` : r.email}
            </button>
          ))}
        </p>
      )}
      <Field label="Subject">
        {(p) => (
          <input
            {...p}
            className="input"
            value={now.subject}
            onChange={(e) => put({ ...now, subject: e.target.value })}
          />
        )}
      </Field>
      <Field label="Letter">
        {(p) => (
          <textarea
            {...p}
            className="input"
            rows={12}
            value={now.text}
            onChange={(e) => put({ ...now, text: e.target.value })}
          />
        )}
      </Field>
      <LetterFiles files={now.files} put={(files) => put({ ...now, files: files(now.files) })} />
      {!may.mailed && (
        <p className="-mt-1 text-sm text-soft">
          The process has no mailbox: it is read, and answered, on the page of the request.
        </p>
      )}
      {mistake && (
        <p role="alert" className="text-brick">
          {mistake}
        </p>
      )}
      <p className="flex flex-wrap gap-2">
        <Button type="submit" look="main" disabled={busy}>
          Send
        </Button>
        <Button
          disabled={busy}
          onClick={() => {
            put(null);
            setBefore(null);
            setMistake("");
          }}
        >
          Put it away
        </Button>
      </p>
    </form>
  );
}
