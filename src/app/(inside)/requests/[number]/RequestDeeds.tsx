"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import { Button, Dialog } from "@/ui";
import { actAction, type CommandInput } from "../../../actions/requests";
import { HandOver } from "../../../shell/HandOver";
import { say } from "../../../shell/say";

/** What can be done with a request as a whole: withdraw, cancel, mend where it is stuck. */
export function RequestDeeds({
  number,
  mayWithdraw,
  mayCancel,
  stuck,
  tasks,
  colleagues,
}: {
  number: string;
  mayWithdraw: boolean;
  mayCancel: boolean;
  stuck: { token: string; sentence: string }[];
  /** Open tasks an owner may give to somebody else. */
  tasks: { task: string; step: string; people: string }[];
  colleagues: readonly { id: string; name: string; jobTitle: string }[];
}) {
  const router = useRouter();
  const [asking, setAsking] = useState<"withdraw" | "cancel" | null>(null);
  const [handing, setHanding] = useState<string | null>(null);
  const [note, setNote] = useState("");
  const [busy, start] = useTransition();
  const send = (input: CommandInput, done: string) =>
    start(async () => {
      const r = await actAction(number, input);
      if (r.ok) say(done);
      else say(r.sentence, "bad");
      setAsking(null);
      setHanding(null);
      router.refresh();
    });
  return (
    <>
      {stuck.map((s) => (
        <span key={s.token} className="flex gap-2">
          <Button
            look="main"
            disabled={busy}
            onClick={() => send({ type: "retry", token: s.token }, "Tried again.")}
          >
            Retry
          </Button>
          <Button
            disabled={busy}
            onClick={() => send({ type: "skip", token: s.token }, "The step was skipped.")}
          >
            Skip the step
          </Button>
        </span>
      ))}
      {tasks.map((t) => (
        <Button key={t.task} disabled={busy} onClick={() => setHanding(t.task)}>
          {tasks.length === 1 ? "Hand over…" : `Hand over “${t.step}” of ${t.people}…`}
        </Button>
      ))}
      <HandOver
        open={handing !== null}
        onOpenChange={(o) => !o && setHanding(null)}
        colleagues={colleagues}
        busy={busy}
        why
        onHand={(to, why) =>
          handing &&
          send({ type: "reassign", task: handing, to: to.id, note: why }, `It is with ${to.title} now.`)
        }
      />
      {mayWithdraw && <Button onClick={() => setAsking("withdraw")}>Withdraw…</Button>}
      {mayCancel && <Button onClick={() => setAsking("cancel")}>Cancel request…</Button>}
      <Dialog
        open={asking !== null}
        onOpenChange={(o) => !o && setAsking(null)}
        title={asking === "cancel" ? `Cancel ${number}` : `Withdraw ${number}`}
      >
        <p className="mb-3">
          The request ends here; open tasks leave the desks. What was written to registers before stays as it
          is. This cannot be taken back.
        </p>
        <label htmlFor="deed-note" className="mb-1 block">
          Why
        </label>
        <textarea
          id="deed-note"
          rows={2}
          className="input mb-4"
          value={note}
          onChange={(e) => setNote(e.target.value)}
        />
        <div className="flex gap-2">
          <Button
            look="brick"
            disabled={busy}
            onClick={() =>
              asking && send({ type: asking, note }, asking === "cancel" ? "Cancelled." : "Withdrawn.")
            }
          >
            {asking === "cancel" ? "Cancel the request" : "Withdraw the request"}
          </Button>
          <Button onClick={() => setAsking(null)}>Keep it going</Button>
        </div>
      </Dialog>
    </>
  );
}
