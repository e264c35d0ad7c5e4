"use client";
import { startKind } from "@/core/kinds";
import { KINDS } from "@/kinds";
import type { StartKind } from "@/starts/shapes";
import { Menu } from "@/ui";
import { newId, useDraft, useKindViews } from "../parts";
import { ProblemLines } from "./ProblemLines";
import { MailTried } from "./MailTried";
import { StartConsequence } from "./StartConsequence";

/** What makes a request: a sentence for each way, with what it comes to today, and what else may start one. */
export function StartRows() {
  const starts = useDraft((d) => d.definition.starts);
  const edit = useDraft((d) => d.edit);
  const problemsAt = useDraft((d) => d.problemsAt);
  const views = useKindViews().starts;
  const kinds = Object.keys(KINDS.starts) as StartKind[];
  const more = kinds.filter((k) => KINDS.starts[k].several || !starts.some((s) => s.kind === k));
  const taken = (id: string) => starts.some((s) => s.id === id);
  const add = (kind: StartKind) =>
    edit({
      op: "start.put",
      after: starts.at(-1)?.id ?? null,
      start: KINDS.starts[kind].blank(newId(kind, taken, "")),
    });
  return (
    <>
      <span className="mr-1 font-medium">Start</span>
      {starts.length === 0 && <span className="text-soft">Nothing starts it yet.</span>}
      <ul aria-label="What starts it">
        {starts.map((s, i) => {
          const Editor = views[s.kind];
          const after = starts[i - 1]?.id ?? null;
          return (
            <li key={s.id} className="border-t border-line py-0.5 first:border-t-0">
              <div className="grid grid-cols-[minmax(0,1fr)_auto] items-start gap-4">
                <Editor start={s} onChange={(start) => edit({ op: "start.put", after, start })} />
                {starts.length > 1 && (
                  <button
                    type="button"
                    className="py-1 text-sm text-soft underline"
                    aria-label={`Remove: ${startKind(KINDS, s).says}`}
                    onClick={() => edit({ op: "start.remove", id: s.id })}
                  >
                    remove
                  </button>
                )}
              </div>
              <ProblemLines problems={problemsAt("start", s.id)} />
              {startKind(KINDS, s).fills?.(s) && <StartConsequence start={s} />}
              {startKind(KINDS, s).ofMail?.(s) && <MailTried start={s} />}
            </li>
          );
        })}
      </ul>
      <Menu
        align="start"
        trigger={
          <button type="button" className="mt-1 min-h-6 text-sm underline">
            {starts.length === 0 ? "Let" : "Also let"}…
          </button>
        }
        groups={[
          {
            heading: starts.length === 0 ? "Let" : "Also let",
            items: more.map((kind) => ({
              id: kind,
              label: KINDS.starts[kind].offer,
              onPick: () => void add(kind),
            })),
          },
        ]}
      />
    </>
  );
}
