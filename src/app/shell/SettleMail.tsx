"use client";
import { useRouter } from "next/navigation";
import { useTransition } from "react";
import { Button } from "@/ui";
import { settleMailAction } from "../actions/mail";
import { say } from "./say";

/** What somebody who looks after a process does about a mail that is not out, or may not be. */
export function SettleMail({ id, of = "" }: { id: string; of?: string }) {
  const router = useRouter();
  const [busy, start] = useTransition();
  const settle = (how: "send" | "arrived", done: string) =>
    start(async () => {
      const r = await settleMailAction(id, how).catch(() => null);
      if (!r) say("The server could not be reached. Nothing was done; try again in a moment.", "bad");
      else if (r.ok) say(done);
      else say(r.sentence, "bad");
      router.refresh();
    });
  return (
    <p className="mt-2 flex flex-wrap gap-2">
      <Button
        small
        disabled={busy}
        aria-label={of && `Send again: ${of}`}
        onClick={() => settle("send", "It is being sent again.")}
      >
        Send again
      </Button>
      <Button
        small
        disabled={busy}
        aria-label={of && `It did arrive: ${of}`}
        onClick={() => settle("arrived", "It is kept as arrived.")}
      >
        It did arrive
      </Button>
    </p>
  );
}
