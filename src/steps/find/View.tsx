"use client";
import { ScanSearch } from "lucide-react";
import { useMemo } from "react";
import { YESNO, type Scope } from "@/core/expression";
import {
  PEOPLE,
  PEOPLE_SORTED,
  peopleScope,
  recordScope,
  type RegisterShape,
  type Registers,
} from "@/core/form";
import { columnsRead, registersRead } from "@/core/problems";
import { KINDS } from "@/kinds";
import { Button, Select } from "@/ui";
import {
  Chip,
  FormulaCell,
  newId,
  SamplePreview,
  StepName,
  TextCell,
  useDraft,
  WayOnChip,
} from "@/workshop/parts";
import type { ListHeadProps, SentenceProps, StepView } from "../view";
import type { StepOf } from "@/core/route";
import { MOST_FOUND, type FindSort } from "./shape";

type Find = StepOf<"find">;

const MOST_SORTED = 5;
const row = "grid grid-cols-[7.5rem_minmax(0,1fr)] items-center gap-x-2";

interface Named {
  id: string;
  name: string;
}
/** What is searched: a register, or the people of the office. */
interface Source {
  name: string;
  one: string;
  /** What a condition may be over. */
  example: string;
  /** Columns it can be put in order by. */
  sorted: readonly Named[];
}

function sourceOf(step: Find, shape: RegisterShape | undefined): Source | null {
  if (step.register === PEOPLE)
    return {
      name: "the people of the office",
      one: "person",
      example: 'Name, Job title, Department, Site, Manager, Groups or Duties, e.g. Department = "…"',
      sorted: PEOPLE_SORTED,
    };
  if (!shape) return null;
  const column = shape.columns.find((c) => c.kind === "choice") ?? shape.columns[0]!;
  const example = `its columns, e.g. ${column.name} = "…"`;
  return { name: shape.name, one: shape.one, example, sorted: shape.columns };
}

const sortText = (columns: readonly Named[], sort: readonly FindSort[]): string =>
  sort
    .map((s) => {
      const name = columns.find((c) => c.id === s.column)?.name ?? "a column that is gone";
      return s.descending ? `${name}, going down` : name;
    })
    .join(", then ");

/** The step as it reads at rest: "up to 20 of Objects where Next check = null, by Acquired". */
function findText(step: Find, source: Source | null): string {
  const which = step.take === "some" ? `up to ${step.most ?? 100} of` : `the ${step.take} of`;
  const where = step.where?.trim() ? ` where ${step.where}` : "";
  const by = source && step.sort?.length ? `, by ${sortText(source.sorted, step.sort)}` : "";
  const stop = step.nothing === "stop" && step.ways.length === 0 ? "; stop when there is none" : "";
  return `${which} ${source?.name ?? (step.register || "no register yet")}${where}${by}${stop}`;
}

/** Which records a Find step takes: register, condition, order, how many, and what happens when there is none. */
function FindChip({ step, scope }: SentenceProps<"find">) {
  const d = useDraft();
  const shape = d.office.registers[step.register];
  const source = sourceOf(step, shape);
  const put = (patch: Partial<Find>) => d.edit({ op: "step.set", id: step.id, patch });
  const people = step.register === PEOPLE;
  const own: Scope = useMemo(() => {
    if (people) return { ...scope, ...peopleScope() };
    return shape
      ? { ...scope, ...recordScope(shape, { registers: d.office.registers, kinds: KINDS }) }
      : scope;
  }, [scope, shape, people, d.office.registers]);
  const sort = step.sort ?? [];
  const way = step.ways[0];
  const pickNothing = (nothing: string) => {
    if (nothing === "way") {
      const list = { id: newId(`${step.id}-none`, () => false), steps: [] };
      d.edit({ op: "list.add", step: step.id, after: null, list });
      return;
    }
    if (way) d.edit({ op: "list.remove", step: step.id, list: way.id });
    put({ nothing: nothing as Find["nothing"] });
  };
  return (
    <Chip text={findText(step, source)} label="What is found" empty={!source} width={560}>
      {() => (
        <div className="grid gap-1.5 text-sm">
          <label className={row}>
            <span className="text-soft">Register</span>
            <Select
              value={step.register}
              onPick={(register) => put({ register, sort: [], columns: null } as unknown as Partial<Find>)}
              empty="Choose…"
              options={[
                ...Object.values(d.office.registers).map((r) => ({ value: r.key, label: r.name })),
                { value: PEOPLE, label: "the people of the office" },
              ]}
            />
          </label>
          <div className={row}>
            <span className="text-soft">Where</span>
            <FormulaCell
              label="Which records are meant"
              placeholder={source ? `over ${source.example}` : "every record"}
              value={step.where ?? ""}
              scope={own}
              wanted={YESNO}
              onCommit={(t) =>
                d.edit({ op: "step.set", id: step.id, patch: { where: t || null } as Partial<Find> })
              }
            />
          </div>
          {source && (
            <SortRows columns={source.sorted} sort={sort} onChange={(next) => put({ sort: next })} />
          )}
          <label className={row}>
            <span className="text-soft">Take</span>
            <Select
              value={step.take}
              onPick={(take) => put({ take: take as Find["take"] })}
              options={[
                { value: "some", label: "a list of them" },
                { value: "first", label: "the first" },
                { value: "last", label: "the last" },
              ]}
            />
          </label>
          {step.take === "some" && (
            <div className={row}>
              <span className="text-soft">Up to</span>
              <span className="flex items-center gap-2">
                <TextCell
                  className="input w-24"
                  inputMode="numeric"
                  aria-label={`How many at most, up to ${MOST_FOUND}`}
                  value={String(step.most ?? 100)}
                  onCommit={(t) => {
                    const most = Number(t.trim());
                    if (!/^\d{1,4}$/.test(t.trim()) || most < 1 || most > MOST_FOUND) return false;
                    put({ most });
                    return true;
                  }}
                />
                <span className="text-soft">1 to {MOST_FOUND}</span>
              </span>
            </div>
          )}
          {shape && (
            <ColumnsRow step={step} shape={shape} onPick={(columns) => put({ columns } as Partial<Find>)} />
          )}
          <label className={row}>
            <span className="text-soft">If there is none</span>
            <Select
              value={way ? "way" : step.nothing}
              onPick={pickNothing}
              disabled={(way?.steps.length ?? 0) > 0}
              options={[
                { value: "on", label: "go on with nothing" },
                { value: "way", label: "take a way of its own" },
                { value: "stop", label: "stop here and tell the owner" },
              ]}
            />
          </label>
          <p className="text-soft">
            Formulas read it as <span className="font-mono">{step.name}</span>
            {step.take === "some" ? ", a list" : `, one ${source?.one ?? "record"} or nothing`}.
          </p>
          {source && <SamplePreview step={step} />}
        </div>
      )}
    </Chip>
  );
}

/** Which columns are fetched of what is found: those that anything here reads, or all of them. */
function ColumnsRow(p: { step: Find; shape: RegisterShape; onPick(columns: "all" | null): void }) {
  const { step, shape } = p;
  const definition = useDraft((d) => d.definition);
  const registers = useDraft((d) => d.office.registers);
  const read = useMemo(() => columnsRead(definition, { registers, kinds: KINDS }), [definition, registers]);
  return (
    <>
      <label className={row}>
        <span className="text-soft">Columns</span>
        <Select
          value={step.columns ?? "read"}
          onPick={(v) => p.onPick(v === "all" ? v : null)}
          options={[
            { value: "read", label: "those that are read here" },
            { value: "all", label: "all of them" },
          ]}
        />
      </label>
      <p className="pl-[8rem] text-soft">
        {step.columns === "all" ? allColumns(shape) : columnsText(shape, registers, read)}
      </p>
    </>
  );
}

const allColumns = (shape: RegisterShape): string =>
  `${shape.columns.length} columns: ${shape.columns.map((c) => c.name).join(", ")}`;

/** "Title, Next check, Store; through Store: Code". */
function columnsText(
  shape: RegisterShape,
  registers: Registers,
  read: Readonly<Record<string, readonly string[]>>,
): string {
  const seen = registersRead(registers, [read]);
  const own = seen[shape.key]?.columns ?? [];
  const through = own.flatMap((c) => {
    const linked = c.register === undefined ? undefined : seen[c.register];
    return linked && linked.columns.length > 0
      ? [`through ${c.name}: ${linked.columns.map((x) => x.name).join(", ")}`]
      : [];
  });
  return [own.map((c) => c.name).join(", "), ...through].join("; ");
}

function SortRows(p: {
  columns: readonly Named[];
  sort: readonly FindSort[];
  onChange(next: FindSort[]): void;
}) {
  const left = p.columns.filter((c) => !p.sort.some((s) => s.column === c.id));
  const columns = (s: FindSort) =>
    p.columns
      .filter((c) => c.id === s.column || left.includes(c))
      .map((c) => ({ value: c.id, label: c.name }));
  const put = (i: number, ...by: FindSort[]) => p.onChange(p.sort.flatMap((x, k) => (k === i ? by : [x])));
  return (
    <>
      {p.sort.map((s, i) => (
        <div key={s.column} className={row}>
          <span className="text-soft">{i === 0 ? "By" : "then by"}</span>
          <span className="flex items-center gap-2">
            <Select
              aria-label={`Column ${i + 1} to sort by`}
              value={s.column}
              onPick={(column) => put(i, { ...s, column })}
              options={columns(s)}
            />
            <Select
              aria-label={`Direction of ${i + 1}`}
              value={s.descending ? "down" : "up"}
              onPick={(way) =>
                put(i, way === "down" ? { column: s.column, descending: true } : { column: s.column })
              }
              options={[
                { value: "up", label: "going up" },
                { value: "down", label: "going down" },
              ]}
            />
            <Button small look="quiet" onClick={() => put(i)}>
              Remove
            </Button>
          </span>
        </div>
      ))}
      {p.sort.length < MOST_SORTED && left.length > 0 && (
        <div className={row}>
          <span className="text-soft">{p.sort.length === 0 ? "By" : "then by"}</span>
          <Select
            aria-label="Sort by another column"
            value=""
            onPick={(column) => column && p.onChange([...p.sort, { column }])}
            empty={p.sort.length === 0 ? "as they were added" : "nothing more"}
            options={left.map((c) => ({ value: c.id, label: c.name }))}
          />
        </div>
      )}
    </>
  );
}

/** The way for nothing found. */
function ListHead({ step, list }: ListHeadProps<"find">) {
  return (
    <span className="flex flex-wrap items-center gap-x-1.5">
      <span className="text-sm text-soft">when nothing is found</span>
      <span aria-hidden>→</span>
      <WayOnChip step={step.id} list={list.id} steps={list.steps} />
    </span>
  );
}

function Sentence(p: SentenceProps<"find">) {
  return (
    <>
      <StepName step={p.step} />
      <FindChip {...p} />
    </>
  );
}

export const view: StepView<"find"> = { icon: ScanSearch, Sentence, ListHead };
