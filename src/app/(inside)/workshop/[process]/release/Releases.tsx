"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import type { ReleasePage } from "@/services";
import { Button, Dialog, Mark, whenText } from "@/ui";
import { useDraft } from "@/workshop";
import {
  closeProcessAction,
  deleteProcessAction,
  openProcessAction,
  releasedDefinitionAction,
} from "../../../../actions/workshop";
import { say } from "../../../../shell/say";
import { useProof } from "../../../../shell/useProof";

const PROCESS = {
  what: "process",
  open: "Open for asking",
  closed: "Not open for asking",
  whatCloses: "Closed, it takes no more requests; those under way go on to their end.",
  isClosed: "Nobody can ask: nothing of it is live.",
  stays: "It cannot be deleted: it has been used, and its requests stay readable.",
  closing: "It leaves Ask at once. Requests under way go on; it can be opened again at any time.",
};
const PROCEDURE: typeof PROCESS = {
  what: "procedure",
  open: "Open for processes",
  closed: "Not open for processes",
  whatCloses: "Closed, what hands to it stops there with the reason; what is in it goes on to its end.",
  isClosed: "Nothing can hand to it: nothing of it is live.",
  stays: "It cannot be deleted: something hands to it, or did.",
  closing:
    "What hands to it next stops there with the reason. What is in it goes on; it can be opened again at any time.",
};

/** All releases, any of which can be brought back as the draft; and whether the process takes requests at all. */
export function Releases({
  process,
  releases,
  used,
  zone,
}: {
  process: string;
  releases: ReleasePage["releases"];
  used: boolean;
  zone: string;
}) {
  const router = useRouter();
  const d = useDraft();
  const words = d.definition.procedure ? PROCEDURE : PROCESS;
  const [asking, setAsking] = useState<"close" | "delete" | null>(null);
  const [busy, start] = useTransition();
  const { proved, dialog } = useProof();
  const live = releases.find((r) => r.state === "live");
  const bringBack = (id: string, version: string) =>
    start(async () => {
      const r = await releasedDefinitionAction(process, id);
      if (!r.ok) return say(r.sentence, "bad");
      // An edit like any other: it can be taken back, and whoever else is at the draft is asked.
      if (d.edit({ op: "process.replace", definition: r.value }))
        say(`The draft is ${version} again. Undo takes that back.`);
    });
  const close = () =>
    start(async () => {
      const r = await proved(() => closeProcessAction(process));
      setAsking(null);
      if (!r.ok) return say(r.sentence, "bad");
      say("Closed: nobody can ask any more.");
      router.refresh();
    });
  const open = () =>
    start(async () => {
      const r = await proved(() => openProcessAction(process));
      if (!r.ok) return say(r.sentence, "bad");
      say(`Open again, with ${r.value.version}.`);
      router.refresh();
    });
  const remove = () =>
    start(async () => {
      const r = await proved(() => deleteProcessAction(process));
      setAsking(null);
      if (!r.ok) return say(r.sentence, "bad");
      say("Deleted.");
      router.push("/workshop");
    });
  return (
    <section>
      {dialog}
      <h2 className="mb-2">Releases</h2>
      {releases.length === 0 && <p className="text-soft">None yet.</p>}
      <ol>
        {releases.map((r) => (
          <li key={r.id} className="flex items-start gap-3 border-t border-line py-2">
            <span className="min-w-0 flex-1">
              <span className="font-medium">{r.version}</span>{" "}
              <Mark tone={r.state === "live" ? "agree" : "plain"}>{r.state}</Mark>
              <span className="text-sm text-soft">
                {" "}
                {whenText(r.releasedAt, zone)}
                {r.releasedBy && `, ${r.releasedBy}`}
              </span>
              {r.note && <span className="block">{r.note}</span>}
            </span>
            <Button
              small
              look="quiet"
              disabled={busy}
              onClick={() => bringBack(r.id, r.version)}
              aria-label={`Bring back ${r.version} as the draft`}
            >
              Bring back
            </Button>
          </li>
        ))}
      </ol>
      <h2 className="mt-8 mb-1">{live ? words.open : words.closed}</h2>
      <p className="mb-2 text-soft">{live ? words.whatCloses : words.isClosed}</p>
      <div className="flex flex-wrap gap-2">
        {live && (
          <Button disabled={busy} onClick={() => setAsking("close")}>
            Close the {words.what}…
          </Button>
        )}
        {!live && releases.length > 0 && (
          <Button disabled={busy} onClick={open}>
            Open it again with {releases[0]!.version}
          </Button>
        )}
        {!used && (
          <Button disabled={busy} onClick={() => setAsking("delete")}>
            Delete the {words.what}…
          </Button>
        )}
      </div>
      {used && <p className="mt-1 text-sm text-soft">{words.stays}</p>}
      <Dialog
        open={asking !== null}
        onOpenChange={(o) => !o && setAsking(null)}
        title={asking === "delete" ? `Delete ${d.definition.name}` : `Close ${d.definition.name}`}
      >
        <p className="mb-4">
          {asking === "delete"
            ? "Its draft, its releases and its samples go for good. This cannot be taken back."
            : words.closing}
        </p>
        <div className="flex gap-2">
          <Button look="brick" disabled={busy} onClick={asking === "delete" ? remove : close}>
            {asking === "delete" ? "Delete it" : "Close it"}
          </Button>
          <Button onClick={() => setAsking(null)}>Leave it</Button>
        </div>
      </Dialog>
    </section>
  );
}
