"use client";
import type { ReactNode } from "react";
import type { RuleTried, StuckReason } from "@/core/engine";
import { stuckSentence } from "@/core/words";
import { KINDS } from "@/kinds";
import { classes } from "@/ui";
import { calledIn } from "../draft/calledIn";
import { useDraft } from "../draft/DraftProvider";
import { useRuleText } from "./ruleText";

/** People named one by one; those further down are counted. */
const NAMED = 12;

/** In sight however long the rules above are. */
const FOOT = "sticky -bottom-3 -mx-3 -mb-3 border-t border-line bg-raised px-3 pb-3 pt-2 text-sm";

/** Whom the rules of a step find for the sample, and why it is they; nothing without a sample. */
export function WhoIsFound({
  tried,
  children,
}: {
  tried: readonly RuleTried[] | { reason: StuckReason } | null;
  /** What stands below whom it finds. */
  children?: ReactNode;
}) {
  const text = useRuleText();
  const people = useDraft((d) => d.factsData.people);
  const turn = useDraft((d) => d.turn);
  const name = calledIn(people, turn?.state ?? null);
  if (!tried) return null;
  if ("reason" in tried)
    return (
      <p role="status" className={classes(FOOT, "text-brick")}>
        For the sample this is not known: {stuckSentence(tried.reason, KINDS)}
      </p>
    );
  const asked = new Set(tried.at(-1)?.people.flatMap((p) => (p.asked ? [p.asked.person] : [])) ?? []);
  const shown = [...asked].slice(0, NAMED).map(name).join(", ");
  const more = asked.size > NAMED ? ` and ${asked.size - NAMED} more` : "";
  return (
    <div className={FOOT}>
      <p role="status" className={classes(asked.size === 0 && "text-brick")}>
        {asked.size === 0 ? (
          "For the sample nobody is found."
        ) : (
          <>
            For the sample: <span className="font-medium">{shown + more}</span>
          </>
        )}
      </p>
      {children}
      <details className="mt-1" open={asked.size === 0}>
        <summary className="cursor-pointer text-soft">Why?</summary>
        <ul className="mt-1 grid gap-1">
          {tried.map((t) => (
            <li key={t.place}>
              {t.place === "fallback" && "That was nobody, so instead: "}
              {text(t.rule)}
              {t.people.length === 0 ? (
                <> finds nobody.</>
              ) : (
                <ul className="ml-4 list-disc">
                  {t.people.slice(0, NAMED).map((p) => (
                    <li key={p.person}>{fate(p, name)}</li>
                  ))}
                  {t.people.length > NAMED && <li>and {t.people.length - NAMED} more</li>}
                </ul>
              )}
            </li>
          ))}
        </ul>
      </details>
    </div>
  );
}

const BARRED = { "own-request": "it is their own request", "kept-apart": "they are kept apart" } as const;

/** What became of one of them, in words. */
function fate({ person, asked, barred }: RuleTried["people"][number], name: (id: string) => string): string {
  const to = asked && asked.person !== person ? name(asked.person) : null;
  if (barred === null) return to === null ? name(person) : `${name(person)} is away: ${to} covers for them`;
  if (barred === "passed-over") return `${name(person)} could be asked, and it is not their turn`;
  const why = `${name(person)} may not answer, for ${BARRED[barred]}`;
  return to === null ? why : `${why}: ${to} is asked in their place`;
}
