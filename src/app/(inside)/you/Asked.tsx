"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import type { ProposalForMe } from "@/services";
import { Banner, Button } from "@/ui";
import { answerProposalAction } from "../../actions/owners";
import { say } from "../../shell/say";
import { useProof } from "../../shell/useProof";

/** Owners proposed for a process, where one's own word is waited for. */
export function Asked({ proposals }: { proposals: ProposalForMe[] }) {
  const router = useRouter();
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  const { proved, dialog } = useProof();
  if (proposals.length === 0) return dialog;
  const answer = (p: ProposalForMe, agree: boolean) =>
    start(async () => {
      const owners = p.owners.map((o) => o.id);
      const r = await proved(() => answerProposalAction(p.process, owners, agree));
      setWrong(r.ok ? "" : r.sentence);
      if (r.ok) say(agree ? `The owners of ${p.name} are changed.` : "The proposal is dropped.");
      router.refresh();
    });
  return (
    <section aria-labelledby="asked">
      <h2 id="asked" className="mb-2">
        Asked of you
      </h2>
      {dialog}
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      <ul>
        {proposals.map((p) => (
          <li key={p.process} className="border-t border-line py-2">
            <p>
              {p.by} proposes {p.owners.map((o) => o.name).join(", ")} as{" "}
              {p.owners.length === 1 ? "owner" : "owners"} of {p.name}.{p.note && ` “${p.note}”`}
            </p>
            <div className="mt-2 flex gap-2">
              <Button
                small
                look="main"
                disabled={busy}
                aria-label={`Agree, for ${p.name}`}
                onClick={() => answer(p, true)}
              >
                Agree
              </Button>
              <Button
                small
                disabled={busy}
                aria-label={`Do not agree, for ${p.name}`}
                onClick={() => answer(p, false)}
              >
                Do not agree
              </Button>
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}
