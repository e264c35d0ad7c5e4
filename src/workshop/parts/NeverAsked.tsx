"use client";
import type { Scope } from "@/core/expression";
import type { Assignment, Rule } from "@/core/route";
import { MOST_RULES } from "@/rules/shapes";
import { Button } from "@/ui";
import { RuleEditor } from "./RuleEditor";
import { without } from "./without";

interface Props {
  who: Assignment;
  onChange(who: Assignment): void;
  scope: Scope;
  /** Keeps labels apart where several stand together. */
  id: string;
}

/** Whom a step never asks, and who is asked in the place of whoever may not be. */
export function NeverAsked({ who, onChange, scope, id }: Props) {
  const { never = [] } = who;
  const put = (rules: Rule[]) =>
    onChange({ ...without(who, "never"), ...(rules.length > 0 ? { never: rules } : {}) });
  const barsAnybody = never.length > 0 || !who.requesterToo;
  return (
    <div className="grid gap-2 text-sm">
      {never.map((r, i) => (
        <fieldset key={i} className="grid grid-cols-[1fr_auto] items-start gap-1">
          <legend className="mb-1 text-soft">Never asked</legend>
          <RuleEditor
            id={`${id}-${i}`}
            rule={r}
            scope={scope}
            onChange={(next) => put(never.map((x, k) => (k === i ? next : x)))}
          />
          <Button
            small
            look="quiet"
            aria-label={`Take away who is never asked ${i + 1}`}
            onClick={() => put(never.filter((_, k) => k !== i))}
          >
            Remove
          </Button>
        </fieldset>
      ))}
      {never.length < MOST_RULES && (
        <div>
          <Button small onClick={() => put([...never, { by: "answered", step: "" }])}>
            Keep somebody apart
          </Button>
        </div>
      )}
      {barsAnybody && (
        <label className="flex min-h-8 items-center gap-2">
          <input
            type="checkbox"
            className="size-4 accent-[var(--moss)]"
            checked={who.instead === "manager"}
            onChange={(e) =>
              onChange({ ...without(who, "instead"), ...(e.target.checked ? { instead: "manager" } : {}) })
            }
          />
          In the place of whoever may not answer, ask their manager
        </label>
      )}
    </div>
  );
}
