"use client";
import { ANY, PERSON, TEXT, type Scope } from "@/core/expression";
import type { Rule } from "@/core/process";
import { Picker } from "@/forms";
import { useDraft } from "../draft/DraftProvider";
import { FormulaCell } from "../draft/FormulaCell";

const KINDS: [Rule["by"], string][] = [
  ["manager", "the manager of somebody"],
  ["duty", "who holds a duty"],
  ["group", "a group"],
  ["person", "one person"],
  ["formula", "a person in the form or a record"],
  ["requester", "the requester"],
];
const START: Record<Rule["by"], Rule> = {
  manager: { by: "manager" },
  duty: { by: "duty", duty: "" },
  group: { by: "group", group: "" },
  person: { by: "person", person: "" },
  formula: { by: "formula", formula: "" },
  requester: { by: "requester" },
};

/** Edits a rule that finds people. `id` keeps labels apart where several stand together. */
export function RuleEditor({
  rule,
  onChange,
  scope,
  id,
}: {
  rule: Rule;
  onChange(r: Rule): void;
  scope: Scope;
  id: string;
}) {
  const d = useDraft();
  const names = d.turn?.names() ?? null;
  const { groups, duties, people } = d.office.data;
  const dutyNames = [...new Set(duties.map((x) => x.duty))].sort();
  return (
    <div className="grid gap-2">
      <select
        aria-label="How people are found"
        className="input"
        value={rule.by}
        onChange={(e) => onChange(START[e.target.value as Rule["by"]])}
      >
        {KINDS.map(([by, words]) => (
          <option key={by} value={by}>
            {words}
          </option>
        ))}
      </select>
      {rule.by === "manager" && (
        <div className="grid grid-cols-[4.5rem_1fr] items-center gap-1 text-sm">
          <span className="text-soft">of</span>
          <FormulaCell
            label="Manager of"
            placeholder={id.startsWith("rung") ? "whoever has it" : "Requester"}
            value={rule.of ?? ""}
            scope={scope}
            wanted={PERSON}
            names={names}
            onCommit={(t) =>
              onChange({ ...without(rule, "of"), ...(t && t !== "Requester" ? { of: t } : {}) })
            }
          />
          <label htmlFor={`${id}-levels`} className="text-soft">
            levels up
          </label>
          <input
            id={`${id}-levels`}
            type="number"
            min={1}
            max={20}
            className="input !w-20"
            value={rule.levels ?? 1}
            onChange={(e) =>
              onChange({ ...rule, levels: Math.max(1, Math.min(20, Number(e.target.value) || 1)) })
            }
          />
        </div>
      )}
      {rule.by === "duty" && (
        <div className="grid grid-cols-[4.5rem_1fr] items-center gap-1 text-sm">
          <label htmlFor={`${id}-duty`} className="text-soft">
            duty
          </label>
          <select
            id={`${id}-duty`}
            className="input"
            value={rule.duty}
            onChange={(e) => onChange({ ...rule, duty: e.target.value })}
          >
            <option value="">Choose…</option>
            {dutyNames.map((x) => (
              <option key={x}>{x}</option>
            ))}
          </select>
          <span className="text-soft">for</span>
          <FormulaCell
            label="For which site or department"
            placeholder="any; or Requester.department"
            value={rule.place ?? ""}
            scope={scope}
            wanted={TEXT}
            names={names}
            onCommit={(t) => onChange({ ...without(rule, "place"), ...(t ? { place: t } : {}) })}
          />
        </div>
      )}
      {rule.by === "group" && (
        <select
          aria-label="Group"
          className="input"
          value={rule.group}
          onChange={(e) => onChange({ by: "group", group: e.target.value })}
        >
          <option value="">Choose…</option>
          {groups.map((g) => (
            <option key={g.key} value={g.key}>
              {g.key}
            </option>
          ))}
        </select>
      )}
      {rule.by === "person" && (
        <Picker
          id={`${id}-person`}
          label="Person"
          value={rule.person || null}
          shown={people.find((p) => p.id === rule.person)?.name ?? rule.person}
          onPick={(o) => onChange({ by: "person", person: o?.id ?? "" })}
          options={(s) =>
            people
              .filter((p) => p.active && p.name.toLowerCase().includes(s.trim().toLowerCase()))
              .slice(0, 20)
              .map((p) => ({ id: p.id, title: p.name }))
          }
        />
      )}
      {rule.by === "formula" && (
        <FormulaCell
          label="Person"
          placeholder="Store.Keeper"
          value={rule.formula}
          scope={scope}
          wanted={ANY}
          names={names}
          onCommit={(t) => onChange({ by: "formula", formula: t })}
        />
      )}
    </div>
  );
}

function without<R extends object, K extends keyof R>(r: R, key: K): Omit<R, K> {
  const { [key]: _gone, ...rest } = r;
  return rest;
}
