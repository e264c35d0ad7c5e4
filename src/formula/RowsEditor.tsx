"use client";
import { Plus, X } from "lucide-react";
import { useEffect, useId, useRef, useState } from "react";
import {
  formulaOf,
  RELATIONS,
  readLogic,
  relationsFor,
  rowMistake,
  rowNames,
  rowsOf,
  standsAlone,
  typeAt,
  type ConditionRow,
  type ConditionRows,
  type Relation,
  type Scope,
} from "@/core/expression";
import { Button, Select } from "@/ui";

/** What the browser helps to fill in. */
const TYPED: Partial<Record<string, string>> = { date: "date", time: "time", datetime: "datetime-local" };

const BLANK: ConditionRow = { left: "", relation: "=", right: "" };

/** A condition built by picking: one row a comparison. Each change writes the formula, and the formula the rows. */
export default function RowsEditor({
  text,
  broken,
  scope,
  onText,
}: {
  text: string;
  broken: boolean;
  scope: Scope;
  onText(text: string): void;
}) {
  const [rows, setRows] = useState<ConditionRows>(() => start(text, scope));
  const written = useRef(text);
  useEffect(() => {
    // Typed in the text: the rows follow. What the rows wrote themselves must not throw away a row not whole yet.
    if (text === written.current) return;
    written.current = text;
    setRows(start(text, scope));
  }, [text, scope]);
  const put = (next: ConditionRows) => {
    setRows(next);
    const said = formulaOf(next, scope);
    // What cannot be said yet leaves the formula as it is.
    if (said === null) return;
    written.current = said;
    onText(said);
  };
  const change = (i: number, row: ConditionRow) =>
    put({ ...rows, rows: rows.rows.map((r, k) => (k === i ? row : r)) });
  const names = rowNames(scope);
  if (rowsOf(text, scope) === null)
    return (
      <p className="mt-2 border-t border-line pt-2 text-soft">
        {broken
          ? "Mend the text first; then it can be shown as rows."
          : "This formula says more than rows can; it stays text."}
      </p>
    );
  return (
    <fieldset className="mt-2 border-t border-line pt-2">
      <legend className="sr-only">Condition as rows</legend>
      {rows.rows.length > 1 && (
        <div className="mb-1.5 flex flex-wrap items-start gap-1.5">
          <Select
            className="!min-h-7 !w-auto !py-0"
            aria-label="How the rows go together"
            value={rows.join}
            onPick={(value) => put(joined(rows, value as ConditionRows["join"]))}
            options={[
              { value: "all", label: "All of these hold" },
              { value: "any", label: "Any of these holds" },
              { value: "own", label: "They go together so:" },
            ]}
          />
          {rows.join === "own" && <Own rows={rows} onLogic={(logic) => put({ ...rows, logic })} />}
        </div>
      )}
      {rows.rows.map((r, i) => {
        const type = typeAt(r.left, scope);
        const held = type?.t === "list" ? type.of : type;
        const mistake = r.left === "" ? null : rowMistake(r, scope);
        return (
          <div key={i} className="mb-1.5">
            <div className="flex flex-wrap items-center gap-1.5">
              {rows.join === "own" && <span className="w-5 text-right text-soft">{i + 1}</span>}
              <Select
                className="!min-h-8 !w-auto min-w-32 max-w-48 flex-1 !py-0"
                aria-label={`Row ${i + 1}: what`}
                value={r.left}
                onPick={(value) => {
                  const next = typeAt(value, scope);
                  change(i, {
                    left: value,
                    relation: next ? relationsFor(next)[0]! : "=",
                    right: "",
                  });
                }}
                empty="Choose…"
                options={names.map((n) => ({ value: n.path, label: n.path }))}
              />
              <Select
                className="!min-h-8 !w-auto !py-0"
                aria-label={`Row ${i + 1}: how`}
                value={r.relation}
                disabled={!type}
                onPick={(value) => change(i, { ...r, relation: value as Relation })}
                options={(type ? relationsFor(type) : (["="] as const)).map((x) => ({
                  value: x,
                  label: RELATIONS[x],
                }))}
              />
              {!standsAlone(r.relation) &&
                (held?.t === "text" && held.options && !r.name ? (
                  <Select
                    className="!min-h-8 !w-auto min-w-28 flex-1 !py-0"
                    aria-label={`Row ${i + 1}: value`}
                    value={r.right}
                    onPick={(value) => change(i, { left: r.left, relation: r.relation, right: value })}
                    empty="Choose…"
                    options={held.options.map((o) => ({ value: o, label: o }))}
                  />
                ) : (
                  <input
                    className="input !min-h-8 !w-auto min-w-24 flex-1 !py-0"
                    size={10}
                    aria-label={`Row ${i + 1}: value`}
                    type={(type && !r.name && TYPED[type.t]) || "text"}
                    value={r.right}
                    disabled={!type}
                    onChange={(e) =>
                      change(i, {
                        left: r.left,
                        relation: r.relation,
                        right: e.target.value,
                        ...(r.name && typeAt(e.target.value, scope) ? { name: true as const } : {}),
                      })
                    }
                  />
                ))}
              <button
                type="button"
                className="rounded p-1 text-soft hover:bg-brick-wash hover:text-brick"
                aria-label={`Remove row ${i + 1}`}
                onClick={() => put(without(rows, i))}
              >
                <X size={14} aria-hidden />
              </button>
            </div>
            {mistake && <p className="text-brick">{mistake}</p>}
          </div>
        );
      })}
      <Button small onClick={() => setRows(withOneMore(rows))}>
        <Plus size={13} aria-hidden /> Add a row
      </Button>
    </fieldset>
  );
}

/** How rows go together, typed. */
function Own({ rows, onLogic }: { rows: ConditionRows; onLogic(logic: string): void }) {
  const logic = rows.logic ?? "";
  const read = readLogic(logic, rows.rows.length);
  const wrong = "mistake" in read ? read.mistake : "";
  const id = useId();
  return (
    <div className="min-w-40 flex-1">
      <input
        className="input !min-h-7 w-full !py-0 font-mono"
        aria-label="How they go together"
        value={logic}
        placeholder="1 and (2 or 3)"
        {...(wrong ? { "aria-invalid": true, "aria-describedby": id } : {})}
        onChange={(e) => onLogic(e.target.value)}
      />
      {wrong && (
        <p id={id} className="text-brick">
          {wrong}
        </p>
      )}
    </div>
  );
}

const numbers = (count: number): string[] => Array.from({ length: count }, (_, i) => String(i + 1));

/** The same rows, going together otherwise; one's own way begins as they did. */
function joined(rows: ConditionRows, join: ConditionRows["join"]): ConditionRows {
  if (join !== "own") return { join, rows: rows.rows };
  const logic = numbers(rows.rows.length).join(rows.join === "any" ? " or " : " and ");
  return { join, rows: rows.rows, logic: rows.logic ?? logic };
}

/** One row fewer; those behind it move up in what was typed, and where it stood itself stays to be mended. */
function without(rows: ConditionRows, i: number): ConditionRows {
  const left = rows.rows.filter((_, k) => k !== i);
  if (rows.join !== "own" || left.length < 2)
    return { join: rows.join === "own" ? "all" : rows.join, rows: left };
  const logic = (rows.logic ?? "").replace(/\d+/g, (n) => {
    if (Number(n) === i + 1) return "?";
    return Number(n) > i + 1 ? String(Number(n) - 1) : n;
  });
  return { ...rows, rows: left, logic };
}

const withOneMore = (rows: ConditionRows): ConditionRows => ({
  ...rows,
  rows: [...rows.rows, BLANK],
  ...(rows.join === "own" ? { logic: `(${rows.logic ?? ""}) and ${rows.rows.length + 1}` } : {}),
});

function start(text: string, scope: Scope): ConditionRows {
  const read = rowsOf(text, scope) ?? { join: "all" as const, rows: [] };
  return read.rows.length === 0 ? { ...read, rows: [BLANK] } : read;
}
