"use client";
import { useRouter } from "next/navigation";
import { useEffect, useState, useTransition } from "react";
import { Button, Field } from "@/ui";
import { answerOnPageAction } from "../actions/mail";
import { say } from "./say";

interface Written {
  /** The same over every try. */
  key: string;
  text: string;
}
/** What this browser kept; null where it is none of ours. */
function readKept(text: string | null): Written | null {
  try {
    const w = JSON.parse(text ?? "null") as Partial<Record<keyof Written, unknown>> | null;
    return w && typeof w.key === "string" && typeof w.text === "string" ? (w as Written) : null;
  } catch {
    return null;
  }
}

/** An answer to a letter, written where the letter stands. What is typed stays with this browser until it is sent. */
export function AnswerLetter({
  id,
  person,
  to,
  write = answerOnPageAction,
}: {
  id: string;
  person: string;
  to: string;
  /** By which it is kept, where whoever writes does not work here. */
  write?: typeof answerOnPageAction;
}) {
  const at = `answer ${person} ${id}`;
  const [now, setNow] = useState<Written | null>(null);
  const [mistake, setMistake] = useState("");
  const [busy, start] = useTransition();
  const router = useRouter();
  useEffect(() => {
    const kept = readKept(window.localStorage.getItem(at));
    if (kept) setNow(kept);
  }, [at]);
  const put = (next: Written | null) => {
    setNow(next);
    setMistake("");
    if (next?.text) window.localStorage.setItem(at, JSON.stringify(next));
    else window.localStorage.removeItem(at);
  };
  if (now === null)
    return (
      <Button small className="mt-2" onClick={() => put({ key: crypto.randomUUID(), text: "" })}>
        Answer {to}
      </Button>
    );
  const send = () =>
    start(async () => {
      const r = await write(id, now.key, now.text).catch(() => null);
      if (!r?.ok)
        return setMistake(
          r ? r.sentence : "The server could not be reached. Nothing is lost; try again in a moment.",
        );
      put(null);
      say("Your answer is kept.");
      router.refresh();
    });
  return (
    <form
      className="mt-2 grid max-w-prose gap-2"
      aria-label={`An answer to ${to}`}
      onSubmit={(e) => {
        e.preventDefault();
        send();
      }}
    >
      <Field label="Your answer">
        {(p) => (
          <textarea
            {...p}
            className="input"
            rows={5}
            value={now.text}
            onChange={(e) => put({ ...now, text: e.target.value })}
          />
        )}
      </Field>
      {mistake && (
        <p role="alert" className="text-brick">
          {mistake}
        </p>
      )}
      <p className="flex flex-wrap gap-2">
        <Button type="submit" look="main" disabled={busy}>
          Send
        </Button>
        <Button disabled={busy} onClick={() => put(null)}>
          Put it away
        </Button>
      </p>
    </form>
  );
}
