"use client";
import { useCallback, useLayoutEffect, useMemo, useRef, useState } from "react";
import { notPassed } from "@/core/form";
import type {
  Access,
  FactsData,
  FileFacts,
  FormData,
  FormProblem,
  FormResult,
  Passed,
  Stored,
  StoredRecord,
} from "@/core/form";
import type { FormAsk, InputContext, LookUp } from "./inputContext";
import { useEvaluation, type FormSource } from "./useEvaluation";
import { useAsking, useRecordsAsked } from "./useRecordsAsked";

export interface FormProps {
  source: FormSource;
  data: FormData;
  onChange?(data: FormData): void;
  lookUp: LookUp;
  /** Asks the server over what is filled in: what can be picked by a condition, what checks want to know of records. */
  ask?: FormAsk | undefined;
  /** Whether to say what is wrong everywhere, or only where somebody has been. */
  complain?: boolean;
  /** What the server found that the browser did not. */
  extraProblems?: readonly FormProblem[];
  /** Why whoever fills it in goes on past checks that may be passed, and what happens when they say so. */
  passed?: Passed;
  onPass?(key: string, why: string): void;
  /** A file that was added, for whoever else evaluates this form. */
  onFile?(file: FileFacts): void;
  /** How many files are on their way to the server. */
  onSending?(files: number): void;
  width?: "desk" | "phone";
  /** The field to mark, as in the Workshop, and what happens when one is pointed at. */
  chosen?: string | null;
  onChoose?(id: string): void;
}

/** A form at hand: what it holds, comes to and lacks, for all that draws it. */
export interface FormAtHand {
  data: FormData;
  before: FormData | undefined;
  about: FormSource["about"];
  result: FormResult;
  facts: FactsData;
  context: InputContext;
  access(id: string): Access;
  editing: boolean;
  narrow: boolean;
  /** What is to be said now; `all` is everything that is wrong, `own` what of it is found here and not by the server. */
  problems: readonly FormProblem[];
  all: readonly FormProblem[];
  own: readonly FormProblem[];
  /** Checks that do not hold and may be passed, with reasons or without; of these the ones that were told of. */
  passable: readonly FormProblem[];
  passing: readonly FormProblem[];
  passed: Passed;
  onPass: ((key: string, why: string) => void) | undefined;
  set(id: string, v: Stored): void;
  /** Somebody has been there, by paths: what is wrong is said from now on. */
  visit(paths: readonly string[]): void;
  chosen: string | null;
  onChoose: ((id: string) => void) | undefined;
}

/** The form recalculated at each keystroke, complaining only when it helps. */
export function useForm(props: FormProps): FormAtHand {
  const { source, data, onChange, lookUp, ask, complain = false, extraProblems, onFile, onSending } = props;
  const [learnt, setLearnt] = useState<FactsData["records"]>({});
  const [files, setFiles] = useState<Record<string, FileFacts>>({});
  const records = useRecordsAsked(props.ask);
  const onWay = useRef(0);
  const [been, setBeen] = useState<ReadonlySet<string>>(new Set());
  const facts = useMemo(
    () => ({
      ...source.facts,
      records: mergeRecords(source.facts.records, learnt),
      files: { ...source.facts.files, ...files },
      asked: records.known,
    }),
    [source.facts, learnt, files, records.known],
  );
  const result = useEvaluation(source, facts, data);
  useAsking(records, result, data);
  // What comes later than it was asked for (a file on its way, a signature) must not bring back what the form was then:
  // a change is made to what is typed by now, also by a control whose page was left meanwhile.
  const latest = useRef({ data, onChange });
  useLayoutEffect(() => {
    latest.current = { data, onChange };
  });
  const context: InputContext = useMemo(
    () => ({
      facts,
      offers: source.offers ?? {},
      zone: source.zone,
      signed: source.signed ?? {},
      lookUp,
      offered: ask
        ? (field, row, search) => ask(latest.current.data, { ask: "offered", field, row, search })
        : null,
      learn: (register: string, record: StoredRecord) =>
        setLearnt((l) => ({ ...l, [register]: { ...l[register], [record.id]: record } })),
      learnFile: (file: FileFacts) => {
        setFiles((l) => ({ ...l, [file.id]: file }));
        onFile?.(file);
      },
      busy: (by: 1 | -1) => onSending?.((onWay.current += by)),
    }),
    [facts, source.offers, source.signed, source.zone, lookUp, ask, onFile, onSending],
  );
  const set = useCallback((id: string, v: Stored) => {
    const at = latest.current;
    at.data = { ...at.data, [id]: v };
    at.onChange?.(at.data);
  }, []);
  const access = useCallback((id: string): Access => source.access[id] ?? "hide", [source.access]);
  const passed = props.passed ?? NO_REASONS;
  const found = useMemo(() => {
    const key = (p: FormProblem) => `${p.path}|${p.code}|${p.pass ?? ""}`;
    const seen = new Set(result.problems.map(key));
    return [...result.problems, ...(extraProblems ?? []).filter((p) => !seen.has(key(p)))];
  }, [result, extraProblems]);
  const all = useMemo(() => notPassed(found, passed), [found, passed]);
  const own = useMemo(() => notPassed(result.problems, passed), [result, passed]);
  // A line is filled in cell by cell: what is still empty in it is said when it is sent.
  const early = (p: FormProblem) => !(p.code === "needed" && p.path.includes("/"));
  const said = (p: FormProblem) =>
    complain || (early(p) && [p.path, ...(p.also ?? [])].some((at) => been.has(at)));
  const problems = all.filter(said);
  const passable = found.filter((p) => p.pass !== undefined);
  const passing = passable.filter((p) => said(p) || passed[p.pass!] !== undefined);
  return {
    data,
    before: source.before,
    about: source.about,
    result,
    facts,
    context,
    access,
    editing: onChange !== undefined,
    narrow: props.width === "phone",
    problems,
    all,
    own,
    passable,
    passing,
    passed,
    onPass: props.onPass,
    set,
    visit: (paths) => setBeen((b) => (paths.every((p) => b.has(p)) ? b : new Set([...b, ...paths]))),
    chosen: props.chosen ?? null,
    onChoose: props.onChoose,
  };
}

const NO_REASONS: Passed = {};

function mergeRecords(a: FactsData["records"], b: FactsData["records"]): FactsData["records"] {
  const out: Record<string, Record<string, StoredRecord>> = { ...a };
  for (const [k, v] of Object.entries(b)) out[k] = { ...out[k], ...v };
  return out;
}
