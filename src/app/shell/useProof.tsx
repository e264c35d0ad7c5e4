"use client";
import { useEffect, useId, useState, useTransition, type ReactNode } from "react";
import { Banner, Button, buttonClass, Dialog } from "@/ui";
import type { Answer } from "@/web";
import { proofProviderAction, proveAnewAction } from "../actions/signIn";

interface Waiting {
  sentence: string;
  goOn(): void;
  drop(): void;
}

/**
 * Does something that matters; where the server asks who it is once more, the password is asked for over the page and
 * it is done then. What was typed stays where it is.
 */
export function useProof(): {
  proved<T>(deed: () => Promise<Answer<T>>): Promise<Answer<T>>;
  dialog: ReactNode;
} {
  const [waiting, setWaiting] = useState<Waiting | null>(null);
  const proved = async <T,>(deed: () => Promise<Answer<T>>): Promise<Answer<T>> => {
    const first = await deed();
    if (first.ok || first.code !== "prove-anew") return first;
    return new Promise((resolve) =>
      setWaiting({
        sentence: first.sentence,
        goOn: () => resolve(deed()),
        drop: () => resolve(first),
      }),
    );
  };
  return {
    proved,
    dialog: waiting && <ProofDialog key={waiting.sentence} waiting={waiting} done={() => setWaiting(null)} />,
  };
}

function ProofDialog({ waiting, done }: { waiting: Waiting; done(): void }) {
  const id = useId();
  const [password, setPassword] = useState("");
  const [said, setSaid] = useState("");
  const [busy, start] = useTransition();
  const [provider, setProvider] = useState<string | null>(null);
  useEffect(() => void proofProviderAction().then(setProvider), []);
  const drop = () => {
    waiting.drop();
    done();
  };
  return (
    <Dialog open onOpenChange={(o) => !o && drop()} title="Is it you?">
      <p className="mb-3 text-soft">{waiting.sentence}</p>
      {said && <Banner tone="bad">{said}</Banner>}
      {provider && (
        <div className="mb-5 flex flex-wrap gap-2">
          <a className={buttonClass()} href="/sign-in/provider?prove=1" target="_blank" rel="noreferrer">
            Show it through {provider}
          </a>
          <Button
            onClick={() => {
              waiting.goOn();
              done();
            }}
          >
            Go on
          </Button>
        </div>
      )}
      <form
        onSubmit={(e) => {
          e.preventDefault();
          e.stopPropagation();
          start(async () => {
            const r = await proveAnewAction(password);
            if (!r.ok) return setSaid(r.sentence);
            waiting.goOn();
            done();
          });
        }}
      >
        <label htmlFor={id} className="mb-1 block">
          Your password
        </label>
        <input
          id={id}
          type="password"
          autoComplete="current-password"
          className="input mb-4"
          required
          value={password}
          onChange={(e) => setPassword(e.target.value)}
        />
        <div className="flex gap-2">
          <Button look="main" type="submit" disabled={busy}>
            {busy ? "Checking…" : "It is me, go on"}
          </Button>
          <Button onClick={drop}>Leave it</Button>
        </div>
      </form>
    </Dialog>
  );
}
