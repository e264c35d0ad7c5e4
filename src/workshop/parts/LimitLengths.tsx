"use client";
import type { Length, LengthUnit } from "@/core/calendar";
import { DATE, DATETIME, DAYS, NUMBER, YESNO, type Scope } from "@/core/expression";
import type { FormulaLength, Limit, LimitFrom, LimitRule, RuleLength } from "@/core/route";
import { Button, Select } from "@/ui";
import { FormulaCell } from "./FormulaCell";
import { LengthInput, LENGTH_UNITS } from "./LengthInput";
import { useNamesHere } from "./StepHere";

const USUAL: Length = { amount: 2, unit: "working days" };

/** How long a limit is: by rules, the first that holds and comes to something, else the ordinary length; and from when. */
export function LimitLengths({
  limit,
  scope,
  opens = "from when it is asked",
  onChange,
}: {
  limit: Limit;
  scope: Scope;
  /** From when it counts where nothing else is said. */
  opens?: string;
  onChange(l: Limit): void;
}) {
  const names = useNamesHere();
  const rules = limit.rules ?? [];
  const setRules = (next: LimitRule[]) => {
    const { rules: _, ...rest } = limit;
    onChange(next.length > 0 ? { ...rest, rules: next } : rest);
  };
  const set = (i: number, rule: LimitRule) => setRules(rules.map((x, k) => (k === i ? rule : x)));
  const swap = (i: number) =>
    rules.map((x, k) => {
      if (k === i - 1) return rules[i]!;
      return k === i ? rules[i - 1]! : x;
    });
  return (
    <section>
      <h3 className="mb-1">How long</h3>
      {rules.map((r, i) => (
        <div key={i} className="mb-2 grid gap-1 border-t border-line pt-1.5 text-sm">
          <div className="grid grid-cols-[minmax(0,1fr)_auto] items-start gap-1.5">
            <div className="flex flex-wrap items-center gap-1.5">
              <LengthByRule
                label={`Length by rule ${i + 1}`}
                value={r.length}
                scope={scope}
                onChange={(length) => set(i, { ...r, length })}
              />
            </div>
            <span className="flex gap-1">
              <Button
                small
                look="quiet"
                aria-label={`Up: rule ${i + 1}`}
                disabled={i === 0}
                onClick={() => setRules(swap(i))}
              >
                Up
              </Button>
              <Button
                small
                look="quiet"
                aria-label={`Remove rule ${i + 1}`}
                onClick={() => setRules(rules.filter((_, k) => k !== i))}
              >
                Remove
              </Button>
            </span>
          </div>
          <div className="grid grid-cols-[auto_minmax(0,1fr)] items-center gap-1.5">
            <span className="text-soft">where</span>
            <FormulaCell
              label={`Rule ${i + 1}: when`}
              value={r.when}
              scope={scope}
              wanted={YESNO}
              names={names}
              onCommit={(when) => set(i, { ...r, when })}
            />
          </div>
        </div>
      ))}
      <div className="flex flex-wrap items-center gap-2 text-sm">
        {rules.length > 0 && <span className="text-soft">otherwise</span>}
        <LengthInput
          label="Length"
          value={limit.otherwise}
          onChange={(otherwise) => onChange({ ...limit, otherwise })}
        />
        <From
          from={limit.from}
          scope={scope}
          opens={opens}
          onChange={(from) => onChange(withFrom(limit, from))}
        />
        <Button
          small
          onClick={() => setRules([...rules, { when: "true", length: { amount: 1, unit: "working days" } }])}
        >
          Another length by rule
        </Button>
      </div>
    </section>
  );
}

const withFrom = ({ from: _, ...rest }: Limit, from: LimitFrom | undefined): Limit =>
  from ? { ...rest, from } : rest;

type LengthKind = "length" | FormulaLength["by"];
const KINDS_OF_LENGTH: { value: LengthKind; label: string }[] = [
  { value: "length", label: "a length" },
  { value: "count", label: "so many, by a formula" },
  { value: "lasting", label: "a length of time by a formula" },
  { value: "day", label: "until a day" },
  { value: "moment", label: "until a date and time" },
];
const WANTED = { count: NUMBER, lasting: DAYS, day: DATE, moment: DATETIME };

/** The same as another kind of length: its formula stays, for whoever chose the wrong one first. */
function asKind(l: RuleLength, kind: LengthKind): RuleLength {
  const { formula, most } = "amount" in l ? { formula: "", most: undefined } : l;
  if (kind === "length") return most ?? USUAL;
  const rest = { formula, ...(most ? { most } : {}) };
  return kind === "count" ? { by: kind, ...rest, unit: "working days" } : { by: kind, ...rest };
}

function LengthByRule({
  label,
  value,
  scope,
  onChange,
}: {
  label: string;
  value: RuleLength;
  scope: Scope;
  onChange(l: RuleLength): void;
}) {
  const names = useNamesHere();
  const kind = (
    <Select
      aria-label={`${label}: how it is said`}
      className="!w-52"
      value={"amount" in value ? "length" : value.by}
      onPick={(k) => onChange(asKind(value, k as LengthKind))}
      options={KINDS_OF_LENGTH}
    />
  );
  if ("amount" in value)
    return (
      <>
        {kind}
        <LengthInput label={label} value={value} onChange={onChange} />
      </>
    );
  const most = (
    <label className="flex items-center gap-1.5 text-soft">
      <input
        type="checkbox"
        className="size-4 accent-[var(--moss)]"
        checked={value.most !== undefined}
        onChange={(e) => {
          const { most: _, ...rest } = value;
          onChange(e.target.checked ? { ...rest, most: USUAL } : rest);
        }}
      />
      at most
    </label>
  );
  return (
    <>
      {kind}
      <span className="min-w-48 flex-1">
        <FormulaCell
          label={`${label}: formula`}
          value={value.formula}
          scope={scope}
          wanted={WANTED[value.by]}
          names={names}
          onCommit={(formula) => onChange({ ...value, formula })}
        />
      </span>
      {value.by === "count" && (
        <Select
          aria-label={`${label}: unit`}
          className="!w-36"
          value={value.unit}
          onPick={(unit) => onChange({ ...value, unit: unit as LengthUnit })}
          options={LENGTH_UNITS}
        />
      )}
      <span className="flex min-h-9 basis-full items-center gap-1.5">
        {most}
        {value.most && (
          <LengthInput
            label={`${label}: at most`}
            value={value.most}
            onChange={(length) => onChange({ ...value, most: length })}
          />
        )}
      </span>
    </>
  );
}

type FromKind = "opening" | LimitFrom["by"];
const FROM: { value: FromKind; label: string }[] = [
  { value: "start", label: "from the request's start" },
  { value: "day", label: "from a day" },
  { value: "moment", label: "from a date and time" },
];

function From({
  from,
  scope,
  opens,
  onChange,
}: {
  from: LimitFrom | undefined;
  scope: Scope;
  opens: string;
  onChange(f: LimitFrom | undefined): void;
}) {
  const names = useNamesHere();
  const pick = (kind: FromKind): LimitFrom | undefined => {
    if (kind === "opening") return undefined;
    return kind === "start" ? { by: kind } : { by: kind, formula: "" };
  };
  return (
    <>
      <Select
        aria-label="The limit counts"
        className="!w-52"
        value={from?.by ?? "opening"}
        onPick={(k) => onChange(pick(k as FromKind))}
        options={[{ value: "opening", label: opens }, ...FROM]}
      />
      {from && from.by !== "start" && (
        <span className="min-w-40 flex-1">
          <FormulaCell
            label="The limit counts from"
            value={from.formula}
            scope={scope}
            wanted={WANTED[from.by]}
            names={names}
            onCommit={(formula) => onChange({ ...from, formula })}
          />
        </span>
      )}
    </>
  );
}
