"use client";
import { useRouter } from "next/navigation";
import { useTransition } from "react";
import type { MailOfNone as Mail } from "@/services";
import { Button, whenText } from "@/ui";
import { settleMailOfNoneAction } from "../../actions/mail";
import { say } from "../../shell/say";

/** Mail that came to one's processes and started nothing, with why; it is started by hand, or needs nothing. */
export function MailOfNone({ mails, zone }: { mails: Mail[]; zone: string }) {
  if (mails.length === 0) return null;
  return (
    <details className="mb-4 border-y border-line py-2" open={mails.length <= 3}>
      <summary className="font-medium">
        {mails.length === 1 ? "One mail" : `${mails.length} mails`} came and started nothing
      </summary>
      <ul>
        {mails.map((m) => (
          <Row key={m.id} mail={m} zone={zone} />
        ))}
      </ul>
    </details>
  );
}

function Row({ mail: m, zone }: { mail: Mail; zone: string }) {
  const router = useRouter();
  const [busy, start] = useTransition();
  const settle = (process: string | null) =>
    start(async () => {
      const r = await settleMailOfNoneAction(m.id, process).catch(() => null);
      if (!r) say("The server could not be reached. Nothing was done; try again in a moment.", "bad");
      else if (!r.ok) say(r.sentence, "bad");
      else if (process === null) say("It needs no request.");
      else if (r.value.number === null) say("It could not be started; why stands with the mail.", "bad");
      else say(`${r.value.number} has been started.`);
      router.refresh();
    });
  return (
    <li className="border-t border-line py-2">
      <p>
        <span className="tracking-wide [font-variant:small-caps]">{m.from}</span> “{m.subject}”{" "}
        <span className="text-sm text-soft">{whenText(m.at, zone)}</span>
      </p>
      <p className="max-w-prose truncate text-sm text-soft">{m.text}</p>
      <p className="text-sm">{m.why}</p>
      <p className="mt-1 flex flex-wrap gap-2">
        {m.processes.map((p) => (
          <Button
            key={p.key}
            small
            disabled={busy}
            aria-label={`Start ${p.name}: ${m.subject}`}
            onClick={() => settle(p.key)}
          >
            Start {p.name}
          </Button>
        ))}
        <Button
          small
          disabled={busy}
          aria-label={`Needs no request: ${m.subject}`}
          onClick={() => settle(null)}
        >
          Needs no request
        </Button>
      </p>
    </li>
  );
}
