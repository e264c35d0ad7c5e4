"use client";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import type { OfferedPress } from "@/services";
import { Banner, Button, buttonClass } from "@/ui";
import { startAction } from "../../../../actions/requests";
import { say } from "../../../../shell/say";

const formOf = (o: OfferedPress, record: string) =>
  `/ask/${o.process}?start=${encodeURIComponent(o.start)}&record=${record}`;

/** What can be started from a record: a button for each, which leads to the form, or begins it at once. */
export function Offered({ record, offered }: { record: string; offered: readonly OfferedPress[] }) {
  const router = useRouter();
  const [wrong, setWrong] = useState<{ sentence: string; form: string | null } | null>(null);
  const [working, start] = useTransition();
  // A second press of the same page is a second try, until something was begun.
  const [tries, setTries] = useState<Record<string, string>>({});
  const begin = (o: OfferedPress) =>
    start(async () => {
      const tried = `${o.process}/${o.start}`;
      const id = tries[tried] ?? crypto.randomUUID();
      setTries((t) => ({ ...t, [tried]: id }));
      const r = await startAction(o.process, id, {}, { start: o.start, record }).catch(() => null);
      if (!r)
        return setWrong({
          sentence: "The server could not be reached. Press once more in a moment; it is not begun twice.",
          form: null,
        });
      if (!r.ok)
        return setWrong({ sentence: r.sentence, form: r.problems.length > 0 ? formOf(o, record) : null });
      say(`Begun as ${r.value.number}.`);
      router.push(`/requests/${r.value.number}`);
    });
  return (
    <div className="mb-6">
      {wrong && (
        <Banner tone="bad">
          {wrong.sentence}{" "}
          {wrong.form && (
            <Link className="link" href={wrong.form} prefetch={false}>
              Fill in the form
            </Link>
          )}
        </Banner>
      )}
      <ul className="flex flex-wrap gap-2" aria-label="What can be started from it">
        {offered.map((o) => (
          <li key={`${o.process}/${o.start}`}>
            {o.atOnce ? (
              <Button small disabled={working} onClick={() => begin(o)} title={`Starts ${o.name} at once`}>
                {o.says}
              </Button>
            ) : (
              <Link
                className={buttonClass("plain", true)}
                href={formOf(o, record)}
                prefetch={false}
                title={`Opens the form of ${o.name}`}
              >
                {o.says}
              </Link>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}
