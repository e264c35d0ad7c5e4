"use client";
import { useState, useTransition } from "react";
import { Button, Field } from "@/ui";
import { sendCodeAction } from "../../actions/outside";

/** Who sends the form, and where they are answered; with a code where the address is to be shown to be theirs. */
export function AddressAsked({
  process,
  visit,
  name,
  email,
  code,
  onChange,
}: {
  process: string;
  visit: string;
  name: string;
  email: string;
  /** Null where none is asked for. */
  code: { value: string; set(code: string): void } | null;
  onChange(change: { name?: string; email?: string }): void;
}) {
  const [said, setSaid] = useState<{ ok: boolean; sentence: string } | null>(null);
  const [busy, start] = useTransition();
  const ask = () =>
    start(async () => {
      const r = await sendCodeAction(process, visit, email).catch(() => null);
      if (!r)
        return setSaid({ ok: false, sentence: "The server could not be reached. Try again in a moment." });
      setSaid(
        r.ok
          ? {
              ok: true,
              sentence: `A code is on its way to ${email.trim()}. It is good for ${r.value.minutes} minutes.`,
            }
          : { ok: false, sentence: r.sentence },
      );
    });
  return (
    <fieldset className="mb-5 grid gap-3 border-b border-line pb-5">
      <legend className="sr-only">Who you are</legend>
      <div className="grid gap-3 md:grid-cols-2">
        <Field label="Your name">
          {(p) => (
            <input
              {...p}
              className="input"
              autoComplete="name"
              maxLength={200}
              value={name}
              onChange={(e) => onChange({ name: e.target.value })}
            />
          )}
        </Field>
        <Field label="Your e-mail">
          {(p) => (
            <input
              {...p}
              type="email"
              className="input"
              autoComplete="email"
              maxLength={254}
              value={email}
              onChange={(e) => onChange({ email: e.target.value })}
            />
          )}
        </Field>
      </div>
      {code && (
        <div className="flex flex-wrap items-end gap-3">
          <Button onClick={ask} disabled={busy || email.trim() === ""}>
            {said?.ok ? "Send another code" : "Send me a code"}
          </Button>
          <Field label="Code from the letter">
            {(p) => (
              <input
                {...p}
                className="input !w-36"
                inputMode="numeric"
                autoComplete="one-time-code"
                maxLength={20}
                value={code.value}
                onChange={(e) => code.set(e.target.value)}
              />
            )}
          </Field>
          <p className="basis-full text-sm text-soft">So that it is known that this address is yours.</p>
        </div>
      )}
      <p role="status" className={said?.ok === false ? "text-brick" : "text-soft"}>
        {said?.sentence ?? ""}
      </p>
    </fieldset>
  );
}
