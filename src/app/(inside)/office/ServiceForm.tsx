"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition, type ReactNode } from "react";
import type { Answer } from "@/web";
import { Banner, Button } from "@/ui";
import { say } from "../../shell/say";
import { useProof } from "../../shell/useProof";

interface Props {
  /** What it is called to those who read by ear. */
  label: string;
  /** Stands above what is wrong. */
  head?: ReactNode;
  /** It is set up already, so that it can be tried and removed. */
  exists: boolean;
  onKeep(): Promise<Answer<null>>;
  onTry(): Promise<Answer<{ why: string | null }>>;
  onRemove(): Promise<Answer<null>>;
  /** What was kept, or removed, is kept; what was typed can be put back. */
  onKept(): void;
  onRemoved(): void;
  /** What is said where it went well. */
  says: { kept: string; letsIn: string; removed: string };
  /** The lines to be filled in. */
  children: ReactNode;
}

/** The frame of a form by which the office sets up a service outside: whoever keeps or removes one shows anew who they are. */
export function ServiceForm(p: Props) {
  const router = useRouter();
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  const { proved, dialog } = useProof();
  const change = (deed: () => Promise<Answer<null>>, done: () => void, words: string) =>
    start(async () => {
      const r = await proved(deed);
      setWrong(r.ok ? "" : r.sentence);
      if (!r.ok) return;
      done();
      say(words);
      router.refresh();
    });
  const attempt = () =>
    start(async () => {
      const r = await p.onTry();
      if (!r.ok) say(r.sentence, "bad");
      else if (r.value.why === null) say(p.says.letsIn);
      else say(r.value.why, "bad");
    });
  return (
    <form
      className="grid max-w-3xl gap-3"
      aria-label={p.label}
      onSubmit={(e) => {
        e.preventDefault();
        change(p.onKeep, p.onKept, p.says.kept);
      }}
    >
      {dialog}
      {p.head}
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      {p.children}
      <div className="flex flex-wrap gap-2">
        <Button look="main" type="submit" disabled={busy}>
          Keep
        </Button>
        {p.exists && (
          <>
            <Button disabled={busy} onClick={attempt}>
              Try it
            </Button>
            <Button
              look="brick"
              disabled={busy}
              onClick={() => change(p.onRemove, p.onRemoved, p.says.removed)}
            >
              Remove
            </Button>
          </>
        )}
      </div>
    </form>
  );
}
