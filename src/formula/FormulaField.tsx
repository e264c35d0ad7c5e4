"use client";
import { useId, useMemo } from "react";
import {
  checkFormula,
  compile,
  emptyBecause,
  environment,
  evaluate,
  saidValue,
  type FormulaProblem,
  type IsFilled,
  type Names,
  type Scope,
  type Surroundings,
  type Type,
} from "@/core/expression";
import { classes } from "@/ui";
import { FormulaPanel } from "./FormulaPanel";
import { useWriting } from "./useWriting";
import { WritingField } from "./WritingField";

export interface FormulaFieldProps {
  value: string;
  onCommit(text: string): void;
  scope: Scope;
  wanted: Type;
  around: Surroundings;
  /** Values to show what the formula comes to; absent where there is no sample. */
  names?: Names | null;
  /** What those values belong to: "the sample". */
  whose?: string;
  /** Which names always have a value here; without it nothing is said about emptiness. */
  filled?: IsFilled;
  label: string;
  placeholder?: string;
  /** What certain whole formulas are called while nobody types: "true" reads "always". */
  words?: Readonly<Record<string, string>>;
  /** A frame of its own, for places outside sheets. */
  framed?: boolean;
  /** What it comes to stands below also while nobody writes. */
  showResult?: boolean;
}

const trimmed = (text: string) => text.trim();

/** A formula in a cell: checked while it is written, with what it comes to for the sample and why. */
export function FormulaField(p: FormulaFieldProps) {
  const { scope, wanted, names, words, label } = p;
  const draft = useWriting(p.value, p.onCommit, trimmed);
  const { text, open } = draft;
  const id = useId();
  const checked = useMemo(
    () => (text.trim() ? checkFormula(text, scope, wanted) : null),
    [text, scope, wanted],
  );
  const mistake = checked?.problems[0] ?? null;
  const doubt = useMemo((): FormulaProblem | null => {
    // A condition that comes to nothing counts as no, which is what people expect of it.
    const found =
      open && p.filled && wanted.t !== "yesno" && checked?.ast && !mistake
        ? emptyBecause(checked.ast, text, p.filled)
        : null;
    return found ? { code: "may-be-empty", ...found } : null;
  }, [open, p.filled, wanted, checked, mistake, text]);
  const marked = useMemo(() => [...(checked?.problems ?? []), ...(doubt ? [doubt] : [])], [checked, doubt]);
  const env = useMemo(
    () => ((open || p.showResult) && names ? environment(names, p.around) : null),
    [open, p.showResult, names, p.around],
  );
  const result = useMemo(
    () =>
      env && checked?.ast && !mistake
        ? saidValue(evaluate(compile(checked.ast), { ...env, fuel: { left: 1_000_000 } }))
        : null,
    [env, checked, mistake],
  );
  const mend = (problem: FormulaProblem | null) => {
    if (problem?.mend) draft.setText(problem.mend.insert);
  };
  const word = open ? undefined : words?.[text];
  return (
    <>
      <WritingField
        draft={draft}
        writing="formula"
        scope={scope}
        wanted={wanted}
        names={names ?? null}
        label={label}
        placeholder={p.placeholder}
        shown={word ?? text}
        look={classes(p.framed ? "input" : "cell", "text-ellipsis", word ? "" : "font-mono text-[0.8rem]")}
        wrong={mistake !== null}
        problems={marked}
        describedBy={id}
        onMend={() => mend(mistake)}
        beside={
          result !== null && (
            <span
              className="max-w-40 shrink-0 truncate border-l border-line py-1.5 pl-2 text-sm text-soft"
              title={result}
            >
              = <span className="text-ink">{result}</span>
            </span>
          )
        }
      >
        <FormulaPanel
          id={id}
          text={text}
          ast={checked?.ast ?? null}
          type={checked?.type ?? null}
          wanted={wanted}
          scope={scope}
          env={env}
          mistake={mistake}
          doubt={doubt}
          result={result}
          whose={p.whose ?? "the sample"}
          why={draft.why}
          onWhy={draft.setWhy}
          onMend={mend}
          onText={draft.setText}
        />
      </WritingField>
      {p.showResult && (
        <p className="mt-1 min-h-5 text-sm">
          {mistake ? (
            <span className="text-brick">{mistake.message}</span>
          ) : (
            result !== null && (
              <span className="font-mono text-[0.8rem] [overflow-wrap:anywhere]">
                <span className="text-soft">= </span>
                {result}
              </span>
            )
          )}
        </p>
      )}
    </>
  );
}
