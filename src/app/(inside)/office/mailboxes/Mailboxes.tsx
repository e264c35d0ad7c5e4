"use client";
import { useState, useTransition } from "react";
import type { MailboxShown } from "@/services";
import { Button, Empty, whenText } from "@/ui";
import { tryMailboxAction } from "../../../actions/mail";
import { say } from "../../../shell/say";
import { MailboxForm } from "./MailboxForm";

/** Mailboxes and how each fares; each is changed in its own place. */
export function Mailboxes({ boxes, zone }: { boxes: MailboxShown[]; zone: string }) {
  const [open, setOpen] = useState<string | null>(null);
  return (
    <div className="max-w-3xl">
      {open !== "" && (
        <p className="mb-4">
          <Button look="main" onClick={() => setOpen("")}>
            Add a mailbox
          </Button>
        </p>
      )}
      {open === "" && <MailboxForm box={null} done={() => setOpen(null)} />}
      {boxes.length === 0 && open !== "" && (
        <Empty title="No mailboxes yet">
          A process with a mailbox can write to people: to those who work here, and to anybody with an
          address.
        </Empty>
      )}
      {boxes.map((b) =>
        open === b.address ? (
          <MailboxForm key={b.address} box={b} done={() => setOpen(null)} />
        ) : (
          <Shown key={b.address} box={b} zone={zone} change={() => setOpen(b.address)} />
        ),
      )}
    </div>
  );
}

function Shown({ box: b, zone, change }: { box: MailboxShown; zone: string; change(): void }) {
  const [busy, start] = useTransition();
  const attempt = () =>
    start(async () => {
      const r = await tryMailboxAction(b.address);
      if (!r.ok) say(r.sentence, "bad");
      else if (r.value.why === null) say(`${b.smtp.host} lets it in.`);
      else say(`${b.smtp.host} does not let it in: ${r.value.why}`, "bad");
    });
  const read = () => {
    if (!b.imap) return "It is not read.";
    if (b.lookedAt === null) return "It has not been looked into yet.";
    return `Last looked into ${whenText(b.lookedAt, zone)}.`;
  };
  return (
    <section aria-label={b.address} className="flex flex-wrap items-start gap-4 border-t border-line py-3">
      <div className="min-w-0 flex-1">
        <h2 className="!text-base break-words">{b.address}</h2>
        <p className="text-soft">
          {b.name}; sends by {b.smtp.host}:{b.smtp.port}
          {b.imap && `, read from ${b.imap.host}:${b.imap.port}`}. {read()}
          {b.news && " People's news goes out from here."}
        </p>
        {b.trouble && <p className="text-brick">It cannot be read: {b.trouble}</p>}
      </div>
      <Button small disabled={busy} aria-label={`Try it: ${b.address}`} onClick={attempt}>
        Try it
      </Button>
      <Button small aria-label={`Change ${b.address}`} onClick={change}>
        Change
      </Button>
    </section>
  );
}
