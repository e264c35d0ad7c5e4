"use client";
import { useRouter } from "next/navigation";
import { useTransition } from "react";
import { Button } from "@/ui";
import { removeKeptLetterAction } from "../../../actions/workshop";
import { say } from "../../../shell/say";

/** Keeps a letter for all no more. */
export function TakeAway({ id, name }: { id: string; name: string }) {
  const router = useRouter();
  const [busy, start] = useTransition();
  return (
    <Button
      small
      look="brick"
      disabled={busy}
      aria-label={`Take away: ${name}`}
      onClick={() =>
        start(async () => {
          const r = await removeKeptLetterAction(id).catch(() => null);
          if (r?.ok) say("It is kept for all no more. Processes that have it keep theirs.");
          else say(r ? r.sentence : "The server could not be reached; nothing was done.", "bad");
          router.refresh();
        })
      }
    >
      Take away
    </Button>
  );
}
