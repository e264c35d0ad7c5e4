"use client";
import { FIELDS } from "@/fields/kinds";
import { useMemo } from "react";
import { Temporal } from "temporal-polyfill";
import {
  compileForm,
  evaluateForm,
  factsFrom,
  notOffered,
  readerNames,
  type Access,
  type FactsData,
  type FormData,
  type FormResult,
  type Party,
  type PassedShown,
  type PreparedForm,
  type SignatureShown,
  type StepForm,
} from "@/core/form";

/** What a form needs in the browser; the server makes it, the Workshop makes it from a draft. */
export interface FormSource {
  form: PreparedForm;
  access: Readonly<Record<string, Access>>;
  facts: FactsData;
  now: number;
  zone: string;
  requester: Party;
  number: string;
  /** What is kept, where the form is being filled in over it: copied values stay as they are there. */
  before?: FormData;
  /** By path what the server could not work out, and why; of fields that are not worked out here. */
  failed: Readonly<Record<string, string>>;
  /** How it is shown where it stands, and what of it. */
  layout?: StepForm;
  /** Lines the task at hand is about, as "objects/3": by field and row. */
  about?: readonly string[];
  /** By field the signatures that are kept. */
  signed?: Readonly<Record<string, SignatureShown>>;
  /** Checks that somebody went on past. */
  passed?: readonly PassedShown[];
  /** By field or column, all that can be picked there; others are as their kind says. */
  offers?: Readonly<Record<string, readonly string[]>>;
}

/** The whole form evaluated over what is typed: the same code that the server runs before it keeps anything. */
export function useEvaluation(source: FormSource, facts: FactsData, data: FormData): FormResult {
  const program = useMemo(() => compileForm(source.form, FIELDS), [source.form]);
  const around = useMemo(() => {
    const now = Temporal.Instant.fromEpochMilliseconds(source.now).toZonedDateTimeISO(source.zone);
    const made = factsFrom(facts, { now }, FIELDS);
    const about = { requester: source.requester, number: source.number };
    return { made, extra: readerNames(about, made, now) };
  }, [facts, source.now, source.zone, source.requester, source.number]);
  // One function as long as the access is the same: rows that did not change are known by it.
  const access = useMemo(() => (id: string) => source.access[id] ?? "hide", [source.access]);
  return useMemo(() => {
    const made = evaluateForm(program, data, access, around.made, around.extra, source.before);
    const others = notOffered(program.fields, source.offers, made.data, access, program.kinds);
    const r = others.length === 0 ? made : { ...made, problems: [...made.problems, ...others] };
    const there = Object.entries(source.failed).filter(
      ([path]) => !program.byId.get(path.split("/").at(-1)!)?.worked,
    );
    return there.length === 0 ? r : { ...r, failed: new Map([...there, ...r.failed]) };
  }, [program, data, access, around, source.before, source.failed, source.offers]);
}
