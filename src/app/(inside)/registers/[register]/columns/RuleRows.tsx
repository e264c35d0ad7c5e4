"use client";
import { useMemo } from "react";
import { ANY, YESNO } from "@/core/expression";
import { fieldType, type RegisterRule, type RegisterShape, type Registers } from "@/core/form";
import { BEFORE, ruleScope, type RegisterProblem } from "@/core/records";
import { FormulaField, type FormulaFieldProps } from "@/formula";
import { KINDS } from "@/kinds";
import { Button, Select } from "@/ui";

const ON: { value: RegisterRule["on"]; label: string }[] = [
  { value: "added or changed", label: "is added or changed" },
  { value: "added", label: "is added" },
  { value: "changed", label: "is changed" },
  { value: "removed", label: "is removed" },
];

interface Props {
  shape: RegisterShape;
  registers: Registers;
  around: FormulaFieldProps["around"];
  problems: RegisterProblem[];
  onChange(rules: RegisterRule[]): void;
}

/** What holds for every record before it is kept: a sentence a rule, in the order in which they are asked. */
export function RuleRows({ shape, registers, around, problems, onChange }: Props) {
  const rules = shape.rules ?? [];
  const surrounding = useMemo(() => ({ registers, kinds: KINDS }), [registers]);
  const scope = useMemo(() => ruleScope(shape, surrounding), [shape, surrounding]);
  const set = (id: string, rule: RegisterRule) => onChange(rules.map((r) => (r.id === id ? rule : r)));
  const add = () => {
    let n = rules.length + 1;
    while (rules.some((r) => r.id === `rule${n}`)) n++;
    onChange([
      ...rules,
      { id: `rule${n}`, on: "added or changed", when: "", then: { do: "refuse", say: "" } },
    ]);
  };
  const first = shape.columns.find((c) => !c.worked)?.id ?? "";
  return (
    <section aria-labelledby="rules" className="mt-6">
      <h2 id="rules" className="mb-1">
        Rules
      </h2>
      <p className="mb-2 text-soft">
        Asked in this order before a record is kept, of people, steps and programs alike. {BEFORE} is the
        record as it was; of a new one it is empty.
      </p>
      <ol className="border-t border-line">
        {rules.map((r, i) => {
          const c =
            r.then.do === "set"
              ? shape.columns.find((x) => x.id === (r.then as { column: string }).column)
              : undefined;
          const { then } = r;
          return (
            <li key={r.id} className="grid gap-1.5 border-b border-line py-2" data-rule={r.id}>
              <div className="flex flex-wrap items-center gap-2">
                <span>
                  {i + 1}. When {/^[aeiou]/i.test(shape.one) ? "an" : "a"} {shape.one}
                </span>
                <Select
                  className="!w-52"
                  aria-label={`When rule ${i + 1} is asked`}
                  value={r.on}
                  onPick={(on) => set(r.id, { ...r, on: on as RegisterRule["on"] })}
                  options={ON}
                />
                <span>and</span>
                <span className="min-w-72 flex-1">
                  <FormulaField
                    label={`Condition of rule ${i + 1}`}
                    placeholder={`a condition, e.g. ${shape.columns[0]?.name ?? "Name"} = null`}
                    value={r.when}
                    scope={scope}
                    wanted={YESNO}
                    around={around}
                    framed
                    onCommit={(when) => set(r.id, { ...r, when })}
                  />
                </span>
                <Button
                  small
                  look="quiet"
                  aria-label={`Take out rule ${i + 1}`}
                  onClick={() => onChange(rules.filter((x) => x !== r))}
                >
                  Take out
                </Button>
              </div>
              <div className="ml-5 flex flex-wrap items-center gap-2">
                <Select
                  className="!w-52"
                  aria-label={`What rule ${i + 1} does`}
                  value={then.do}
                  onPick={(what) =>
                    set(r.id, {
                      ...r,
                      then:
                        what === "set" ? { do: "set", column: first, value: "" } : { do: "refuse", say: "" },
                    })
                  }
                  options={[
                    { value: "refuse", label: "refuse it, and say" },
                    { value: "set", label: "set a column" },
                  ]}
                />
                {then.do === "refuse" ? (
                  <input
                    className="input min-w-72 flex-1"
                    aria-label={`What rule ${i + 1} says`}
                    placeholder={`A ${shape.one} may not …`}
                    value={then.say}
                    onChange={(e) => set(r.id, { ...r, then: { ...then, say: e.target.value } })}
                  />
                ) : (
                  <>
                    <Select
                      className="!w-52"
                      aria-label={`Column rule ${i + 1} sets`}
                      value={then.column}
                      empty="Choose…"
                      onPick={(column) => set(r.id, { ...r, then: { ...then, column } })}
                      options={shape.columns
                        .filter((x) => !x.worked)
                        .map((x) => ({ value: x.id, label: x.name }))}
                    />
                    <span>to</span>
                    <span className="min-w-60 flex-1">
                      <FormulaField
                        label={`Value rule ${i + 1} sets`}
                        placeholder="a formula, e.g. today()"
                        value={then.value}
                        scope={scope}
                        wanted={c ? fieldType(c, surrounding, 1) : ANY}
                        around={around}
                        framed
                        onCommit={(value) => set(r.id, { ...r, then: { ...then, value } })}
                      />
                    </span>
                  </>
                )}
              </div>
              {problems
                .filter((x) => x.where.id === r.id)
                .map((x, n) => (
                  <p key={n} className="ml-5 text-sm text-brick">
                    {x.message}
                  </p>
                ))}
            </li>
          );
        })}
      </ol>
      <Button small className="mt-2" onClick={add}>
        Add a rule
      </Button>
    </section>
  );
}
