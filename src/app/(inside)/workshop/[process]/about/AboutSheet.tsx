"use client";
import Link from "next/link";
import type { OwnersView, StartFares, UsedBy } from "@/services";
import { whenText } from "@/ui";
import { About, useDraft } from "@/workshop";
import { Owners } from "./Owners";
import { StartsFare } from "./StartsFare";

/** What a draft says of the process, who owns it, and what happened to it. */
export function AboutSheet({
  process,
  owned,
  used,
  fares,
  zone,
}: {
  process: string;
  owned: OwnersView;
  /** The steps that hand to it, or start requests of it. */
  used: UsedBy[];
  /** How the starts that nobody presses fare. */
  fares: StartFares[];
  zone: string;
}) {
  const procedure = useDraft((d) => d.definition.procedure);
  return (
    <About owners={<Owners process={process} owned={owned} zone={zone} />}>
      {(procedure || used.length > 0) && (
        <section aria-labelledby="where-used" className="mt-5">
          <h2 id="where-used" className="mb-2">
            Where it is used
          </h2>
          {used.length === 0 && <p className="text-soft">Nothing hands to it yet.</p>}
          <ul>
            {used.map((u, i) => (
              <li key={i} className="border-t border-line py-1.5">
                <Link className="link" href={`/workshop/${u.key}/route`}>
                  {u.process}
                </Link>
                , {u.number} {u.step}
                <span className="text-soft">, {u.version ? `${u.version}, live` : "the draft"}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      {fares.length > 0 && <StartsFare process={process} starts={fares} zone={zone} />}
      <section aria-labelledby="process-log" className="mt-5">
        <h2 id="process-log" className="mb-2">
          What happened to this {procedure ? "procedure" : "process"}
        </h2>
        {owned.log.length === 0 && <p className="text-soft">Nothing yet.</p>}
        <ol>
          {owned.log.map((e, i) => (
            <li key={i} className="border-t border-line py-1.5">
              {e.sentence}
              <span className="block text-sm text-faint">
                {whenText(e.at, zone)}
                {e.by && `, ${e.by}`}
                {e.key && " by a program's key"}
              </span>
            </li>
          ))}
        </ol>
      </section>
    </About>
  );
}
