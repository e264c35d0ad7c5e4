"use client";
import type { OwnersView } from "@/services";
import { whenText } from "@/ui";
import { About } from "@/workshop";
import { Owners } from "./Owners";

/** What a draft says of the process, who owns it, and what happened to it. */
export function AboutSheet({ process, owned, zone }: { process: string; owned: OwnersView; zone: string }) {
  return (
    <About owners={<Owners process={process} owned={owned} zone={zone} />}>
      <section aria-labelledby="process-log" className="mt-5">
        <h2 id="process-log" className="mb-2">
          What happened to this process
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
