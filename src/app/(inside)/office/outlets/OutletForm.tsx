"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import type { Outlet } from "@/core/route";
import type { OutletInput, OutletShown } from "@/services";
import { Banner, Button } from "@/ui";
import { putOutletAction, removeOutletAction, tryOutletAction } from "../../../actions/outlets";
import { say } from "../../../shell/say";
import { useProof } from "../../../shell/useProof";
import { Line } from "../Line";

interface Props {
  kind: Outlet;
  /** As a heading. */
  title: string;
  lead: string;
  example: string;
  /** As it is set up; null where there is none. */
  shown: OutletShown | null;
}

/** Where documents are brought, as it is set up. */
export function OutletForm({ kind, title, lead, example, shown }: Props) {
  const router = useRouter();
  const blank: OutletInput = { kind, address: "", account: null, secret: null };
  const [said, setSaid] = useState<OutletInput>(shown ? { ...shown, secret: null } : blank);
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  const { proved, dialog } = useProof();
  const set = (patch: Partial<OutletInput>) => setSaid({ ...said, ...patch });
  const after = (r: { ok: true } | { ok: false; sentence: string }, words: string) => {
    setWrong(r.ok ? "" : r.sentence);
    if (!r.ok) return;
    say(words);
    router.refresh();
  };
  const attempt = () =>
    start(async () => {
      const r = await tryOutletAction(kind);
      if (!r.ok) say(r.sentence, "bad");
      else if (r.value.why === null) say(`${title}: Cobble Step is let in.`);
      else say(r.value.why, "bad");
    });
  const remove = () =>
    start(async () => {
      const r = await proved(() => removeOutletAction(kind));
      if (r.ok) setSaid(blank);
      after(r, `${title}: there is none any more.`);
    });
  return (
    <form
      className="mb-8 grid max-w-3xl gap-3"
      aria-label={title}
      onSubmit={(e) => {
        e.preventDefault();
        start(async () => {
          const r = await proved(() => putOutletAction(said));
          if (r.ok) setSaid({ ...said, secret: null });
          after(r, `${title} is kept.`);
        });
      }}
    >
      {dialog}
      <h2>{title}</h2>
      <p className="max-w-prose text-soft">{lead}</p>
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      <Line
        label="Address"
        value={said.address}
        put={(address) => set({ address })}
        required
        placeholder={example}
      />
      <Line
        label="Account"
        value={said.account ?? ""}
        put={(v) => set({ account: v === "" ? null : v })}
        autoComplete="off"
        placeholder="none: it is entered with a token"
      />
      <Line
        label="Password or token"
        type="password"
        value={said.secret ?? ""}
        put={(v) => set({ secret: v === "" ? null : v })}
        autoComplete="new-password"
        placeholder={shown ? "as it was" : ""}
      />
      <div className="flex flex-wrap gap-2">
        <Button look="main" type="submit" disabled={busy}>
          Keep
        </Button>
        {shown && (
          <>
            <Button disabled={busy} onClick={attempt}>
              Try it
            </Button>
            <Button look="brick" disabled={busy} onClick={remove}>
              Remove
            </Button>
          </>
        )}
      </div>
    </form>
  );
}
