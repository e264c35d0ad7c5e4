import Link from "next/link";
import type { MailNotOut as NotOut } from "@/services";
import { whenText } from "@/ui";
import { SettleMail } from "../../shell/SettleMail";

/** Mail of one's processes that is not out, or of which it cannot be known; above everything, because nobody else sees it. */
export function MailNotOut({ mails, zone }: { mails: NotOut[]; zone: string }) {
  if (mails.length === 0) return null;
  return (
    <details className="mb-4 border-y border-line py-2" open={mails.length <= 3}>
      <summary className="font-medium text-brick">
        {mails.length === 1 ? "One mail is not out" : `${mails.length} mails are not out`}, or it cannot be
        known
      </summary>
      <ul>
        {mails.map((m) => (
          <li key={m.id} className="border-t border-line py-2">
            <p>
              <Link className="link" href={`/requests/${m.number}`} prefetch={false}>
                {m.number}
              </Link>{" "}
              “{m.subject}” to {m.to.join(", ") || "nobody"}{" "}
              <span className="text-sm text-soft">{whenText(m.at, zone)}</span>
            </p>
            <p className="text-sm text-brick">{m.trouble}</p>
            <SettleMail id={m.id} of={`${m.subject} of ${m.number}`} />
          </li>
        ))}
      </ul>
    </details>
  );
}
