"use client";
import { useRouter } from "next/navigation";
import { useTransition } from "react";
import { Button } from "@/ui";
import {
  removeKeptLadderAction,
  removeKeptLetterAction,
  removeKeptTemplateAction,
} from "../../../actions/workshop";
import { say } from "../../../shell/say";

const REMOVE = {
  letter: removeKeptLetterAction,
  ladder: removeKeptLadderAction,
  template: removeKeptTemplateAction,
};

/** Keeps something for all no more. */
export function TakeAway({ id, name, what }: { id: string; name: string; what: keyof typeof REMOVE }) {
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
          const r = await REMOVE[what](id).catch(() => null);
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
