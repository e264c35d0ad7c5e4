"use client";
import { ArrowDown, ArrowUp } from "lucide-react";
import { useMemo, useState } from "react";
import type { FormulaFieldProps } from "@/formula";
import { FormulaField } from "@/formula";
import { fieldType, recordScope, type Column, type RegisterShape, type Registers } from "@/core/form";
import type { RegisterProblem } from "@/core/records";
import { KINDS } from "@/kinds";
import { Boxes, Button, Select } from "@/ui";
import { COLUMN_KINDS } from "./columnKinds";

interface Props {
  column: Column;
  shape: RegisterShape;
  registers: Registers;
  around: FormulaFieldProps["around"];
  problems: RegisterProblem[];
  /** Not kept yet. */
  fresh: boolean;
  first: boolean;
  last: boolean;
  onChange(c: Column): void;
  onMove(by: 1 | -1): void;
  onRemove(): void;
}

/** One column: what it is called and holds in one line, the rest in a second that opens. */
export function ColumnRow(p: Props) {
  const { column: c, shape, registers } = p;
  const [open, setOpen] = useState(p.fresh);
  const around = useMemo(() => ({ registers, kinds: KINDS }), [registers]);
  const scope = useMemo(() => recordScope(shape, around), [shape, around]);
  const type = fieldType(c, around, 1);
  const put = (patch: Partial<Column>) => p.onChange({ ...c, ...patch });
  /** With a property set, or without it where nothing is said. */
  const said = <K extends keyof Column>(key: K, value: Column[K] | "" | false) => {
    const { [key]: _, ...rest } = c;
    p.onChange((value === "" || value === false ? rest : { ...rest, [key]: value }) as Column);
  };
  const flag = (key: "needed" | "unique" | "unlisted", label: string) => (
    <label className="flex items-center gap-1.5 whitespace-nowrap">
      <input type="checkbox" checked={c[key] === true} onChange={(e) => said(key, e.target.checked)} />
      {label}
    </label>
  );
  // No formula makes a file.
  const isFile = KINDS.fields[c.kind].idOf === "file";
  const [endings, setEndings] = useState(isFile ? (c.options ?? []).join(", ") : "");
  const row = "grid grid-cols-[9rem_minmax(0,1fr)] items-center gap-x-3";
  return (
    <li className="border-b border-line py-1.5" data-column={c.id}>
      <div className="grid grid-cols-[minmax(10rem,16rem)_minmax(8rem,11rem)_minmax(0,1fr)_auto] items-center gap-3">
        <input
          id={`name-${c.id}`}
          className="input"
          aria-label="Name of the column"
          value={c.name}
          onChange={(e) => put({ name: e.target.value })}
        />
        <Select
          aria-label={`Kind of ${c.name}`}
          value={c.kind}
          onPick={(kind) => {
            const { options, register: _r, registers: _s, ...rest } = c;
            const to = KINDS.fields[kind as Column["kind"]].links;
            const linked = to?.at(KINDS.fields[c.kind].links?.registers(c) ?? []);
            const next = { ...rest, ...linked, kind: kind as Column["kind"] };
            p.onChange(options && offersChoices(c) && offersChoices(next) ? { ...next, options } : next);
          }}
          options={COLUMN_KINDS}
        />
        <span className="flex flex-wrap items-center gap-x-4">
          {flag("needed", "needed")}
          {shape.key_column === c.id ? (
            <span className="text-soft">no two alike: records are found by it</span>
          ) : (
            flag("unique", "no two alike")
          )}
          {c.worked && <span className="text-soft">worked out</span>}
        </span>
        <span className="flex items-center gap-1">
          <Button
            small
            look="quiet"
            aria-expanded={open}
            aria-label={`${open ? "Fold" : "Details"} of ${c.name}`}
            onClick={() => setOpen(!open)}
          >
            {open ? "Fold" : "Details"}
          </Button>
          <Button
            small
            look="quiet"
            aria-label={`Move ${c.name} up`}
            disabled={p.first}
            onClick={() => p.onMove(-1)}
          >
            <ArrowUp size={15} aria-hidden />
          </Button>
          <Button
            small
            look="quiet"
            aria-label={`Move ${c.name} down`}
            disabled={p.last}
            onClick={() => p.onMove(1)}
          >
            <ArrowDown size={15} aria-hidden />
          </Button>
          <Button small look="quiet" aria-label={`Take out ${c.name}`} onClick={p.onRemove}>
            Take out
          </Button>
        </span>
      </div>
      {(open || needsMore(c)) && (
        <div className="mt-2 mb-1 ml-4 grid max-w-3xl gap-1.5">
          {offersChoices(c) && (
            <label className={row}>
              <span className="text-soft">Choices, one a line</span>
              <textarea
                className="input"
                rows={Math.min(Math.max((c.options ?? []).length + 1, 2), 8)}
                value={(c.options ?? []).join("\n")}
                onChange={(e) => put({ options: e.target.value.split("\n") })}
                onBlur={(e) =>
                  put({
                    options: [
                      ...new Set(
                        e.target.value
                          .split("\n")
                          .map((x) => x.trim())
                          .filter(Boolean),
                      ),
                    ],
                  })
                }
              />
            </label>
          )}
          {c.kind === "look-up" && (
            <label className={row}>
              <span className="text-soft">Links to</span>
              <Select
                value={c.register ?? ""}
                empty="Choose…"
                onPick={(register) => put({ register })}
                options={Object.values(registers).map((r) => ({ value: r.key, label: r.name }))}
              />
            </label>
          )}
          {c.kind === "look-up in several" && (
            <div className={row}>
              <span className="text-soft">Links to</span>
              <Boxes
                label={`Registers that ${c.name} links to`}
                chosen={c.registers ?? []}
                onChoose={(registers) => put({ registers })}
                options={Object.values(registers).map((r) => ({ value: r.key, label: r.name }))}
              />
            </div>
          )}
          {isFile && (
            <label className={row}>
              <span className="text-soft">Kinds of files</span>
              <input
                className="input"
                placeholder="any; or endings, for example pdf, jpg"
                value={endings}
                onChange={(e) => setEndings(e.target.value)}
                onBlur={() => {
                  const all = endings
                    .toLowerCase()
                    .split(/[\s,;]+/)
                    .map((x) => x.replace(/^\./, ""));
                  const options = [...new Set(all.filter(Boolean))];
                  setEndings(options.join(", "));
                  const { options: _, ...rest } = c;
                  p.onChange(options.length > 0 ? { ...rest, options } : rest);
                }}
              />
            </label>
          )}
          {!isFile && (
            <div className={row}>
              <span className="text-soft">Worked out as</span>
              <FormulaField
                label={`How ${c.name} is worked out`}
                placeholder="filled in; or a formula over this register's columns"
                value={c.worked ?? ""}
                scope={scope}
                wanted={type}
                around={p.around}
                onCommit={(t) => said("worked", t)}
              />
            </div>
          )}
          {!c.worked && !isFile && (
            <div className={row}>
              <span className="text-soft">Begins with</span>
              <FormulaField
                label={`What ${c.name} begins with`}
                placeholder="nothing; or a formula, e.g. today()"
                value={c.starting ?? ""}
                scope={scope}
                wanted={type}
                around={p.around}
                onCommit={(t) => said("starting", t)}
              />
            </div>
          )}
          <label className={row}>
            <span className="text-soft">Help</span>
            <input className="input" value={c.help ?? ""} onChange={(e) => said("help", e.target.value)} />
          </label>
          <div className={row}>
            <span className="text-soft">In lists</span>
            {flag("unlisted", "only where somebody chooses it")}
          </div>
        </div>
      )}
      {p.problems.map((x, i) => (
        <p key={i} className="mt-1 text-sm text-brick">
          {x.message}
        </p>
      ))}
    </li>
  );
}

const offersChoices = (c: Column): boolean => {
  const { options } = KINDS.fields[c.kind].has;
  return options === "values" || options === "several values";
};

const needsMore = (c: Column): boolean =>
  (offersChoices(c) && !c.options?.length) || KINDS.fields[c.kind].links?.registers(c).length === 0;
