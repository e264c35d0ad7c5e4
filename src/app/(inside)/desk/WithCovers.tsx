"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import { besideStep } from "@/core/words";
import type { CoveredTask } from "@/services";
import { Banner, Button } from "@/ui";
import { actAction } from "../../actions/requests";
import { say } from "../../shell/say";

/** What is with whoever covers, to be had again by whoever was away. */
export function WithCovers({ rows, total }: { rows: readonly CoveredTask[]; total: number }) {
  const router = useRouter();
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  const takeBack = (t: CoveredTask) =>
    start(async () => {
      const r = await actAction(t.number, { type: "take back", task: t.task_id }).catch(() => null);
      setWrong(r?.ok ? "" : (r?.sentence ?? "The server could not be reached; try again in a moment."));
      if (r?.ok) say(`${t.number} is with you again.`);
      router.refresh();
    });
  return (
    <section aria-labelledby="covered" className="mt-10">
      <h2 id="covered" className="mb-1">
        With whoever covers for you
      </h2>
      <p className="mb-2 text-soft">
        {total === 1 ? "It was asked of you" : `${total} were asked of you`} and went to somebody else while
        you are away. Once you are back you can have them again, as long as they are not answered.
      </p>
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      <ul>
        {rows.map((t) => (
          <li
            key={`${t.number} ${t.task_id}`}
            className="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-line py-1.5"
          >
            <span className="w-28 shrink-0 font-mono text-sm">{t.number}</span>
            <span className="min-w-0 flex-1 basis-60 break-words">
              {t.title}
              <span className="block text-sm text-soft">
                {[besideStep(t.purpose, t.step_name), t.about].filter(Boolean).join(", ")}: with {t.cover}
              </span>
            </span>
            <Button small disabled={busy} aria-label={`Take back ${t.number}`} onClick={() => takeBack(t)}>
              Take back
            </Button>
          </li>
        ))}
      </ul>
      {total > rows.length && (
        <p className="mt-2 text-sm text-soft">{total - rows.length} more follow as these are taken back.</p>
      )}
    </section>
  );
}
