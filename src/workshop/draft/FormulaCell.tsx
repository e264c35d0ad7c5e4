"use client";
import { useEffect, useId, useMemo, useRef, useState } from "react";
import { checkFormula, compile, environment, evaluate, typeInWords, valueText, type Names, type Scope, type Type, type Value } from "@/core/expression";
import { classes } from "@/ui";
import { useDraft } from "./DraftProvider";

interface Props {
  value: string;
  onCommit(text: string): void;
  scope: Scope;
  wanted: Type;
  /** Values to show what the formula comes to; absent where there is no sample. */
  names?: Names | null;
  label: string;
  placeholder?: string;
  /** What certain whole formulas are called while nobody types: "true" reads "always". */
  words?: Readonly<Record<string, string>>;
}

const shown = (v: Value): string => (v === true ? "yes" : v === false ? "no" : v === null ? "empty" : valueText(v));

/** A formula in a cell: what is wrong with it and what it comes to for the sample stand below while it is typed. */
export function FormulaCell({ value, onCommit, scope, wanted, names, label, placeholder, words }: Props) {
  const { facts } = useDraft();
  const [text, setText] = useState(value);
  const [focused, setFocused] = useState(false);
  const committed = useRef(value);
  const id = useId();
  useEffect(() => {
    // A change from elsewhere (undo, a renamed field) replaces what is not being typed.
    if (value !== committed.current) setText(value);
    committed.current = value;
  }, [value]);
  const checked = useMemo(() => (text.trim() ? checkFormula(text, scope, wanted) : null), [text, scope, wanted]);
  const result = useMemo(() => {
    if (!checked?.ast || checked.problems.length > 0 || !names) return null;
    return shown(evaluate(compile(checked.ast), environment(names, facts)));
  }, [checked, names, facts]);
  const problem = checked?.problems[0];
  const commit = (next: string) => {
    if (next === committed.current) return;
    committed.current = next;
    onCommit(next);
  };
  const said = problem ? problem.message : result !== null ? `for the sample: ${result}` : checked ? typeInWords(checked.type) : "";
  return (
    <div className="relative">
      <input
        className={classes("cell text-ellipsis", words?.[text] && !focused ? "" : "font-mono text-[0.8rem]", problem && !focused && "!border-b-brick")} value={!focused && words?.[text] ? words[text] : text} title={text.length > 14 && !focused ? text : undefined} aria-label={label} placeholder={placeholder} spellCheck={false} autoComplete="off"
        aria-invalid={problem ? true : undefined} aria-describedby={focused && said ? id : undefined}
        onChange={(e) => setText(e.target.value)}
        onFocus={() => setFocused(true)}
        onBlur={() => { setFocused(false); commit(text.trim()); }}
        onKeyDown={(e) => {
          if (e.key === "Enter") { e.preventDefault(); e.stopPropagation(); commit(text.trim()); }
          if (e.key === "Escape") { e.stopPropagation(); setText(committed.current); }
          if (e.key === "." && e.ctrlKey && problem?.mend) { e.preventDefault(); setText(problem.mend.insert); }
        }}
      />
      {focused && said && (
        <div id={id} role="status" className={classes("absolute top-full left-0 z-20 mt-0.5 min-w-full w-max max-w-md rounded border bg-raised px-2 py-1 text-sm shadow-[0_2px_8px_rgb(0_0_0/0.1)]", problem ? "border-brick text-brick" : "border-line-strong text-ink")}>
          {said}
          {problem?.mend && (
            <button type="button" tabIndex={-1} className="ml-2 text-ink underline" onMouseDown={(e) => { e.preventDefault(); setText(problem.mend!.insert); }}>
              Mend (Ctrl .)
            </button>
          )}
        </div>
      )}
    </div>
  );
}
