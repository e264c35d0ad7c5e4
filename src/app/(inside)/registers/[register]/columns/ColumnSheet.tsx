"use client";
import { useRouter } from "next/navigation";
import { useEffect, useMemo, useState, useTransition } from "react";
import { Temporal } from "temporal-polyfill";
import { staying, type Column, type Registers, type RegisterShape } from "@/core/form";
import { registerProblems, shapeChange, type RegisterProblem } from "@/core/records";
import { KINDS } from "@/kinds";
import type { LostValues, ShapeHits } from "@/services";
import { Banner, Button } from "@/ui";
import { changeRegisterAction, shapeHitsAction } from "../../../../actions/registers";
import { say } from "../../../../shell/say";
import { useProof } from "../../../../shell/useProof";
import { ColumnRow } from "./ColumnRow";
import { RuleRows } from "./RuleRows";
import { idFrom } from "./idFrom";

/** Milliseconds without a change after which the server is asked what it would hit. */
const QUIET_MS = 400;

/** The columns and rules of a register, one row each, with what a change of them would hit. */
export function ColumnSheet(p: {
  shape: RegisterShape;
  registers: Registers;
  now: number;
  zone: string;
  /** Its records are gone through for another change. */
  waits: boolean;
}) {
  const router = useRouter();
  const [before, setBefore] = useState(p.shape);
  const [shape, setShape] = useState(p.shape);
  const [hits, setHits] = useState<ShapeHits | null>(null);
  const [wrong, setWrong] = useState("");
  /** Columns whose values nothing can be made of may be left out. */
  const [lets, setLets] = useState<readonly string[]>([]);
  const [busy, start] = useTransition();
  const { proved, dialog } = useProof();
  const around = useMemo(() => {
    const now = Temporal.Instant.fromEpochMilliseconds(p.now).toZonedDateTimeISO(p.zone);
    return { now };
  }, [p.now, p.zone]);
  const registers = useMemo(() => ({ ...p.registers, [shape.key]: shape }), [p.registers, shape]);
  const problems = useMemo(
    () => registerProblems(staying(shape), { registers, kinds: KINDS }),
    [shape, registers],
  );
  const changed = JSON.stringify(shape) !== JSON.stringify(before);
  const [seen, setSeen] = useState(p.shape);
  // The page fetched itself anew: what nobody has begun to change here is shown as it is now.
  if (p.shape !== seen && JSON.stringify(p.shape) !== JSON.stringify(seen)) {
    setSeen(p.shape);
    if (!changed) {
      setBefore(p.shape);
      setShape(p.shape);
    }
  }
  useEffect(() => {
    if (!changed) return;
    const timer = setTimeout(() => {
      void shapeHitsAction(shape.key, shape).then((r) => setHits(r.ok ? r.value : null));
    }, QUIET_MS);
    return () => clearTimeout(timer);
  }, [shape, changed]);
  const put = (patch: Partial<RegisterShape>) => setShape((s) => ({ ...s, ...patch }));
  const setColumn = (id: string, column: Column) =>
    put({ columns: shape.columns.map((c) => (c.id === id ? column : c)) });
  const columns = shape.columns.filter((c) => !c.leaving);
  const leaving = shape.columns.filter((c) => c.leaving);
  const move = (at: number, by: 1 | -1) => {
    const moved = [...columns];
    const [c] = moved.splice(at, 1);
    moved.splice(at + by, 0, c!);
    put({ columns: [...moved, ...leaving] });
  };
  const add = () => {
    const name = nameFor(shape);
    put({ columns: [...shape.columns, { id: idFrom(name, shape), name, kind: "text" }] });
    requestAnimationFrame(() => document.getElementById(`name-${idFrom(name, shape)}`)?.focus());
  };
  const isNew = (id: string) => !before.columns.some((c) => c.id === id);
  const keep = () =>
    start(async () => {
      const named = withOwnIds(shape, before);
      const r = await proved(() => changeRegisterAction(shape.key, before, named, lets));
      if (!r.ok) return setWrong(r.sentence);
      setWrong("");
      setHits(null);
      setLets([]);
      setBefore(r.value.shape);
      setShape(r.value.shape);
      say(
        r.value.begun
          ? `The records of ${r.value.shape.name} are gone through; then it is changed.`
          : `${r.value.shape.name} is changed.`,
      );
      router.refresh();
    });
  const refusals = changed ? (hits?.refusals ?? []) : [];
  const loses = changed ? (hits?.loses ?? []) : [];
  const of = (kind: RegisterProblem["where"]["kind"], id: string) =>
    problems.filter((x) => x.where.kind === kind && x.where.id === id);
  return (
    <form
      aria-label={`Columns of ${shape.name}`}
      onSubmit={(e) => {
        e.preventDefault();
        keep();
      }}
    >
      {dialog}
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      <div className="mb-5 grid max-w-3xl grid-cols-[minmax(8rem,12rem)_minmax(0,1fr)] items-center gap-x-4 gap-y-2">
        <label htmlFor="register-name" className="text-soft">
          Name
        </label>
        <input
          id="register-name"
          className="input"
          value={shape.name}
          onChange={(e) => put({ name: e.target.value })}
        />
        <label htmlFor="register-one" className="text-soft">
          One of them is
        </label>
        <input
          id="register-one"
          className="input"
          value={shape.one}
          onChange={(e) => put({ one: e.target.value })}
        />
        <label htmlFor="register-purpose" className="text-soft">
          Purpose
        </label>
        <input
          id="register-purpose"
          className="input"
          value={shape.purpose}
          onChange={(e) => put({ purpose: e.target.value })}
        />
        <span className="text-soft">Records are named by</span>
        <span className="flex flex-wrap gap-x-4 gap-y-1">
          {shape.columns
            .filter((c) => KINDS.fields[c.kind].idOf === null && !c.leaving)
            .map((c) => (
              <label key={c.id} className="flex items-center gap-1.5">
                <input
                  type="checkbox"
                  checked={shape.title.includes(c.id)}
                  onChange={() =>
                    put({
                      title: shape.title.includes(c.id)
                        ? shape.title.filter((x) => x !== c.id)
                        : [...shape.title, c.id].slice(0, 5),
                    })
                  }
                />
                {c.name}
              </label>
            ))}
        </span>
      </div>
      {of("register", shape.key).map((x, i) => (
        <p key={i} className="mb-2 text-sm text-brick">
          {x.message}
        </p>
      ))}
      <h2 className="mb-1">Columns</h2>
      <ol className="border-t border-line">
        {columns.map((c, i) => (
          <ColumnRow
            key={c.id}
            column={c}
            shape={shape}
            registers={registers}
            around={around}
            problems={of("column", c.id)}
            fresh={isNew(c.id)}
            first={i === 0}
            last={i === columns.length - 1}
            onChange={(next) => setColumn(c.id, next)}
            onMove={(by) => move(i, by)}
            onRemove={() =>
              put({
                columns: shape.columns.filter((x) => x.id !== c.id),
                title: shape.title.filter((x) => x !== c.id),
              })
            }
          />
        ))}
      </ol>
      <Button small className="mt-2" onClick={add}>
        Add a column
      </Button>
      {leaving.length > 0 && (
        <p className="mt-3 flex flex-wrap items-center gap-x-3 gap-y-1 text-soft">
          Taken out, and still read by what was released before:
          {leaving.map((c) => (
            <span key={c.id} className="flex items-center gap-1">
              {c.name}
              <Button
                small
                look="quiet"
                aria-label={`Bring back ${c.name}`}
                onClick={() => {
                  const { leaving: _, ...back } = c;
                  setColumn(c.id, back);
                }}
              >
                Bring back
              </Button>
            </span>
          ))}
        </p>
      )}
      <RuleRows
        shape={shape}
        registers={registers}
        around={around}
        problems={problems.filter((x) => x.where.kind === "rule")}
        onChange={(rules) => {
          const { rules: _, ...rest } = shape;
          setShape(rules.length > 0 ? { ...rest, rules } : rest);
        }}
      />
      <div className="sticky bottom-0 mt-6 border-t border-line bg-ground py-3">
        {refusals.map((x) => (
          <p key={x} className="text-brick">
            {x}
          </p>
        ))}
        {changed && hits?.hits.map((x) => <p key={x}>{x}</p>)}
        {loses.map((x) => (
          <Loses
            key={x.column}
            loses={x}
            agreed={lets.includes(x.column)}
            onAgree={(yes) => setLets(yes ? [...lets, x.column] : lets.filter((id) => id !== x.column))}
          />
        ))}
        <div className="mt-1 flex flex-wrap items-center gap-3">
          <Button
            look="main"
            type="submit"
            disabled={
              busy ||
              !changed ||
              p.waits ||
              problems.length > 0 ||
              refusals.length > 0 ||
              loses.some((x) => !lets.includes(x.column))
            }
          >
            {busy ? "Keeping…" : "Keep"}
          </Button>
          {changed && (
            <Button
              onClick={() => {
                setShape(before);
                setWrong("");
              }}
            >
              Leave as it was
            </Button>
          )}
          <span role="status" className="text-soft">
            {changed ? stateText(before, shape, problems.length) : ""}
          </span>
        </div>
      </div>
    </form>
  );
}

/** What nothing can be made of where a column comes to be of another kind, to be agreed to. */
function Loses(p: { loses: LostValues; agreed: boolean; onAgree(yes: boolean): void }) {
  const { name, count, examples } = p.loses;
  const said = examples.map((e) => `"${e.text}" in ${e.title}`).join(", ");
  return (
    <p>
      <span className="text-brick">
        Nothing can be made of what {count} {count === 1 ? "record holds" : "records hold"} in “{name}”:{" "}
        {said}
        {count > examples.length ? `, and ${count - examples.length} more` : ""}.
      </span>{" "}
      <label className="inline-flex items-center gap-1.5 whitespace-nowrap">
        <input type="checkbox" checked={p.agreed} onChange={(e) => p.onAgree(e.target.checked)} />
        Leave {count === 1 ? "it" : "them"} empty
      </label>
    </p>
  );
}

/** What has been changed and not kept yet, counted. */
function stateText(before: RegisterShape, after: RegisterShape, problems: number): string {
  if (problems > 0)
    return problems === 1 ? "One thing is not right yet." : `${problems} things are not right yet.`;
  const c = shapeChange(before, after);
  const parts = [
    c.added.length > 0 ? `${c.added.length} added` : "",
    c.removed.length > 0 ? `${c.removed.length} taken out` : "",
    c.renamed.length > 0 ? `${c.renamed.length} called otherwise` : "",
    c.retyped.length > 0 ? `${c.retyped.length} of another kind` : "",
  ].filter(Boolean);
  return `Not kept yet${parts.length > 0 ? `: ${parts.join(", ")}` : ""}.`;
}

/** New columns get their ids from what they are called by now; those that are kept never change theirs. */
function withOwnIds(shape: RegisterShape, before: RegisterShape): RegisterShape {
  const ids = new Map<string, string>();
  const columns: Column[] = [];
  for (const c of shape.columns) {
    const kept = before.columns.some((x) => x.id === c.id);
    const others = { columns: [...before.columns, ...columns] };
    const id = kept ? c.id : idFrom(c.name, others);
    ids.set(c.id, id);
    columns.push({ ...c, id });
  }
  const { rules } = shape;
  return {
    ...shape,
    columns,
    title: shape.title.map((id) => ids.get(id) ?? id),
    ...(rules
      ? {
          rules: rules.map((r) =>
            r.then.do === "set"
              ? { ...r, then: { ...r.then, column: ids.get(r.then.column) ?? r.then.column } }
              : r,
          ),
        }
      : {}),
  };
}

function nameFor(shape: RegisterShape): string {
  const taken = new Set(shape.columns.map((c) => c.name));
  let n = shape.columns.length + 1;
  while (taken.has(`Column ${n}`)) n++;
  return `Column ${n}`;
}
