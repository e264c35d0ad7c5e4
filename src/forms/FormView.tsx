"use client";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import {
  isGroup,
  type FactsData,
  type Field,
  type FileFacts,
  type FormData,
  type FormProblem,
  type Stored,
  type StoredRecord,
} from "@/core/form";
import { formProblemSentence } from "@/core/words";
import { FIELD_INPUTS } from "@/fields/inputs";
import { Button, classes, Pebble } from "@/ui";
import { FieldInput } from "./FieldInput";
import { WorkedValue } from "./WorkedValue";
import type { InputContext, LookUp } from "./inputContext";
import { LinesTable } from "./LinesTable";
import { useEvaluation, type FormSource } from "./useEvaluation";

const rowsAbout = (about: readonly string[] | undefined, lines: string): ReadonlySet<string> =>
  new Set(about?.flatMap((a) => (a.startsWith(`${lines}/`) ? [a.slice(lines.length + 1)] : [])));

export interface FormViewProps {
  source: FormSource;
  data: FormData;
  onChange?(data: FormData): void;
  lookUp: LookUp;
  /** Whether to say what is wrong everywhere, or only where somebody has been. */
  complain?: boolean;
  /** What the server found that the browser did not. */
  extraProblems?: readonly FormProblem[];
  /** A file that was added, for whoever else evaluates this form. */
  onFile?(file: FileFacts): void;
  /** How many files are on their way to the server. */
  onSending?(files: number): void;
  width?: "desk" | "phone";
  /** The field to mark, as in the Workshop, and what happens when one is pointed at. */
  chosen?: string | null;
  onChoose?(id: string): void;
  /** Pages as a sequence; without it everything stands below each other. */
  paged?: boolean;
}

/** A form as its people see it: laid out, recalculated at each keystroke, complaining only when it helps. */
export function FormView(props: FormViewProps) {
  const {
    source,
    data,
    onChange,
    lookUp,
    complain = false,
    extraProblems = [],
    width = "desk",
    chosen,
    onChoose,
    onFile,
    onSending,
    paged = true,
  } = props;
  const [learnt, setLearnt] = useState<FactsData["records"]>({});
  const [files, setFiles] = useState<Record<string, FileFacts>>({});
  const onWay = useRef(0);
  const [been, setBeen] = useState<ReadonlySet<string>>(new Set());
  const [page, setPage] = useState(0);
  const facts = useMemo(
    () => ({
      ...source.facts,
      records: mergeRecords(source.facts.records, learnt),
      files: { ...source.facts.files, ...files },
    }),
    [source.facts, learnt, files],
  );
  const result = useEvaluation(source, facts, data);
  const context: InputContext = useMemo(
    () => ({
      facts,
      offers: source.offers ?? {},
      lookUp,
      learn: (register: string, record: StoredRecord) =>
        setLearnt((l) => ({ ...l, [register]: { ...l[register], [record.id]: record } })),
      learnFile: (file: FileFacts) => {
        setFiles((l) => ({ ...l, [file.id]: file }));
        onFile?.(file);
      },
      busy: (by: 1 | -1) => onSending?.((onWay.current += by)),
    }),
    [facts, source.offers, lookUp, onFile, onSending],
  );
  const access = useCallback((id: string) => source.access[id] ?? "hide", [source.access]);
  const problems = useMemo(() => {
    const seen = new Set(result.problems.map((p) => `${p.path}|${p.code}`));
    return [...result.problems, ...extraProblems.filter((p) => !seen.has(`${p.path}|${p.code}`))].filter(
      (p) => complain || been.has(p.path),
    );
  }, [result, extraProblems, complain, been]);
  const set = (id: string, v: Stored) => onChange?.({ ...data, [id]: v });
  const editing = onChange !== undefined;
  const pages = useMemo(
    () =>
      paged && editing
        ? source.form.fields.filter(
            (f) => f.kind === "page" && result.shown.has(f.id) && access(f.id) !== "hide",
          )
        : [],
    [paged, editing, source.form.fields, result.shown, access],
  );
  const at = Math.min(page, Math.max(pages.length - 1, 0));
  const narrow = width === "phone";
  const complained = useRef(false);
  // Being told that something is wrong takes the person there, also to another page of the form.
  useEffect(() => {
    if (complain && !complained.current && problems[0]) {
      const path = problems[0].path;
      const on = pages.findIndex((p) => contains(p, path.split("/")[0]!));
      if (on >= 0) setPage(on);
      requestAnimationFrame(() => document.getElementById(path)?.focus());
    }
    complained.current = complain;
  }, [complain, problems, pages]);

  const row = (f: Field): React.ReactNode => {
    if (access(f.id) === "hide" || !result.shown.has(f.id)) return null;
    if (isGroup(f)) {
      const inner = (f.fields ?? []).map(row);
      if (inner.every((x) => x === null)) return null;
      return (
        <fieldset
          key={f.id}
          data-field={f.id}
          className={classes("mb-5 min-w-0", chosen === f.id && "bg-slate-wash")}
          onPointerDown={() => onChoose?.(f.id)}
        >
          <legend className="mb-2 w-full border-b border-line pb-1 font-serif text-lg font-semibold">
            {f.name}
          </legend>
          {inner}
        </fieldset>
      );
    }
    const found = problems.filter((p) => p.path === f.id);
    const readOnly = !editing || f.worked !== undefined || access(f.id) !== "edit";
    const fact = readOnly && f.kind !== "lines";
    const helpId = `${f.id}-help`;
    const saidId = `${f.id}-said`;
    const described = [f.help && !readOnly ? helpId : "", found.length > 0 ? saidId : ""]
      .filter(Boolean)
      .join(" ");
    const label = (
      <>
        {f.name}
        {!readOnly && result.needed.has(f.id) && <span className="ml-1.5 text-sm text-faint">needed</span>}
      </>
    );
    return (
      <div
        key={f.id}
        data-field={f.id}
        onPointerDown={(e) => {
          if (onChoose) {
            onChoose(f.id);
            e.stopPropagation();
          }
        }}
        onBlur={() => setBeen((b) => (b.has(f.id) ? b : new Set(b).add(f.id)))}
        className={classes(
          "rounded-sm",
          (!fact || narrow) && "mb-3",
          f.kind !== "lines" &&
            !narrow &&
            "grid grid-cols-[minmax(9rem,13rem)_minmax(0,1fr)] items-start gap-x-4",
          chosen === f.id && "bg-slate-wash outline outline-4 outline-slate-wash",
        )}
      >
        {readOnly || FIELD_INPUTS[f.kind].grouped ? (
          <span
            id={`${f.id}-label`}
            className={classes(
              "leading-snug",
              f.kind === "lines" ? "mb-1 block font-serif text-lg font-semibold" : "text-soft",
              // What stands above its value is nearer to it than to the field before.
              fact && narrow ? "text-sm" : "pt-[7px]",
            )}
          >
            {label}
          </span>
        ) : (
          <label htmlFor={f.id} className="pt-[7px] leading-snug text-soft">
            {label}
          </label>
        )}
        <div className="min-w-0">
          {f.kind === "lines" ? (
            <LinesTable
              field={f}
              rows={Array.isArray(data[f.id]) ? (data[f.id] as never) : []}
              result={result}
              access={editing ? access : (id) => (access(id) === "hide" ? "hide" : "see")}
              context={context}
              problems={
                problems.length || complain ? problems : result.problems.filter((p) => been.has(p.path))
              }
              onChange={(rows) => set(f.id, rows)}
              narrow={narrow}
              about={rowsAbout(source.about, f.id)}
            />
          ) : readOnly ? (
            <div
              className={classes(
                "whitespace-pre-wrap break-words",
                !narrow && "min-h-[34px] pt-[7px]",
                f.kind === "money" && "font-medium",
              )}
              aria-labelledby={`${f.id}-label`}
            >
              {f.kind === "money" && result.data[f.id] ? "EUR " : ""}
              <WorkedValue
                field={f}
                value={result.data[f.id]}
                facts={facts}
                failed={found.length > 0 ? undefined : result.failed.get(f.id)}
              />
            </div>
          ) : (
            <FieldInput
              field={f}
              id={f.id}
              label={f.name}
              value={data[f.id]}
              onChange={(v) => set(f.id, v)}
              context={context}
              invalid={found.length > 0}
              {...(described ? { describedBy: described } : {})}
            />
          )}
          {f.help && !readOnly && (
            <p id={helpId} className="mt-0.5 text-sm text-faint">
              {f.help}
            </p>
          )}
          {found.length > 0 && (
            <p id={saidId} className="mt-0.5 text-sm text-brick">
              {found.map(formProblemSentence).join(" ")}
            </p>
          )}
        </div>
      </div>
    );
  };

  return (
    <div>
      {pages.length > 1 && (
        <nav aria-label="Pages of the form" className="mb-4 flex flex-wrap gap-x-5 gap-y-1">
          {pages.map((p, i) => {
            const bad = problems.some((x) => contains(p, x.path.split("/")[0]!));
            return (
              <button
                key={p.id}
                type="button"
                aria-current={i === at ? "step" : undefined}
                onClick={() => setPage(i)}
                className={classes(
                  "flex items-center gap-2 rounded py-1 pr-1",
                  i === at ? "font-medium" : "text-soft hover:text-ink",
                )}
              >
                <Pebble tone={i === at ? "here" : "plain"}>{String(i + 1)}</Pebble> {p.name}
                {bad && <span className="text-sm text-brick">look again</span>}
              </button>
            );
          })}
        </nav>
      )}
      {source.form.fields
        .filter((f) => pages.length < 2 || f.kind !== "page" || f.id === pages[at]?.id)
        .map(row)}
      {pages.length > 1 && (
        <div className="mt-4 flex gap-2">
          <Button small disabled={at === 0} onClick={() => setPage(at - 1)}>
            Back
          </Button>
          <Button small disabled={at === pages.length - 1} onClick={() => setPage(at + 1)}>
            Next: {pages[at + 1]?.name ?? "nothing more"}
          </Button>
        </div>
      )}
    </div>
  );
}

const contains = (group: Field, id: string): boolean =>
  (group.fields ?? []).some((f) => f.id === id || contains(f, id));

function mergeRecords(a: FactsData["records"], b: FactsData["records"]): FactsData["records"] {
  const out: Record<string, Record<string, StoredRecord>> = { ...a };
  for (const [k, v] of Object.entries(b)) out[k] = { ...out[k], ...v };
  return out;
}
