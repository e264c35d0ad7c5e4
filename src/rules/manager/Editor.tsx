"use client";
import { PERSON } from "@/core/expression";
import { FormulaCell, useDraft, without } from "@/workshop/parts";
import { Select } from "@/ui";
import type { RuleEditorProps } from "../editor";

const FAR = { levels: "levels up", title: "up to a job title", level: "up to a level from the top" };
type Far = keyof typeof FAR;
const number = (text: string) => Math.max(1, Math.min(20, Math.round(Number(text)) || 1));

export function Editor({ rule, onChange, scope, names, id, inRung }: RuleEditorProps<"manager">) {
  const { people } = useDraft().office.data;
  const { until } = rule;
  const titles = [...new Set(people.flatMap((p) => (p.active && p.jobTitle ? [p.jobTitle] : [])))].sort();
  const bare = without(without(rule, "until"), "levels");
  const pick = (far: Far) => {
    if (far === "levels") return onChange(bare);
    onChange({ ...bare, until: far === "title" ? { title: "" } : { level: 2 } });
  };
  const level = until && "level" in until ? "level" : "title";
  return (
    <div className="grid gap-1.5 text-sm">
      <div className="grid grid-cols-[4.5rem_1fr] items-center gap-1">
        <span className="text-soft">of</span>
        <FormulaCell
          label="Manager of"
          placeholder={inRung ? "whoever has it" : "Requester"}
          value={rule.of ?? ""}
          scope={scope}
          wanted={PERSON}
          names={names}
          onCommit={(t) => onChange({ ...without(rule, "of"), ...(t && t !== "Requester" ? { of: t } : {}) })}
        />
        <label htmlFor={`${id}-far`} className="text-soft">
          how far
        </label>
        <div className="flex gap-1">
          <Select
            id={`${id}-far`}
            value={until ? level : "levels"}
            onPick={(v) => pick(v as Far)}
            options={Object.entries(FAR).map(([value, label]) => ({ value, label }))}
          />
          {until && "title" in until ? (
            <Select
              aria-label="Job title"
              value={until.title}
              onPick={(title) => onChange({ ...bare, until: { title } })}
              empty="Choose…"
              options={titles.includes(until.title) || !until.title ? titles : [until.title, ...titles]}
            />
          ) : (
            <input
              type="number"
              min={1}
              max={20}
              aria-label={until ? "Level from the top" : "Levels up"}
              className="input !w-20"
              value={until ? until.level : (rule.levels ?? 1)}
              onChange={(e) =>
                onChange(
                  until
                    ? { ...bare, until: { level: number(e.target.value) } }
                    : { ...rule, levels: number(e.target.value) },
                )
              }
            />
          )}
        </div>
      </div>
      {until && "level" in until && (
        <p className="text-soft">Level 1 is whoever has no manager, level 2 whoever they manage.</p>
      )}
      <label className="flex min-h-8 items-center gap-2">
        <input
          type="checkbox"
          className="size-4 accent-[var(--moss)]"
          checked={rule.line ?? false}
          onChange={(e) =>
            onChange({ ...without(rule, "line"), ...(e.target.checked ? { line: true } : {}) })
          }
        />
        and everybody on the way there
      </label>
    </div>
  );
}
