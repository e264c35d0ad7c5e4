"use client";
import { Popover as Radix } from "radix-ui";
import { lazy, Suspense, useEffect, useId, useMemo, useRef, useState } from "react";
import { checkFormula, compile, emptyBecause, environment, evaluate, saidValue, type FormulaProblem, type IsFilled, type Names, type Scope, type Surroundings, type Type } from "@/core/expression";
import { classes } from "@/ui";
import { FormulaPanel } from "./FormulaPanel";

const Editor = lazy(() => import("./FormulaEditor"));

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

/**
 * A formula in a cell. At rest it is a line of text; to write, an editor opens over it, with what is wrong, what it
 * comes to for the sample and why below. Nothing typed is lost: leaving keeps it, Escape puts the old text back.
 */
export function FormulaField(p: FormulaFieldProps) {
  const { value, scope, wanted, names, words, label } = p;
  const [text, setText] = useState(value);
  const [open, setOpen] = useState(false);
  const [why, setWhy] = useState(false);
  const committed = useRef(value);
  const input = useRef<HTMLInputElement>(null);
  const panel = useRef<HTMLDivElement>(null);
  const caret = useRef(0);
  const closing = useRef(false);
  const opening = useRef(0);
  const closeList = useRef<() => boolean>(() => false);
  const id = useId();
  useEffect(() => {
    // A change from elsewhere (undo, a renamed field) replaces what is not being typed.
    if (value !== committed.current) setText(value);
    committed.current = value;
  }, [value]);

  const checked = useMemo(() => (text.trim() ? checkFormula(text, scope, wanted) : null), [text, scope, wanted]);
  const mistake = checked?.problems[0] ?? null;
  const doubt = useMemo((): FormulaProblem | null => {
    // A condition that comes to nothing counts as no, which is what people expect of it.
    const found = open && p.filled && wanted.t !== "yesno" && checked?.ast && !mistake ? emptyBecause(checked.ast, text, p.filled) : null;
    return found ? { code: "may-be-empty", ...found } : null;
  }, [open, p.filled, wanted, checked, mistake, text]);
  const marked = useMemo(() => [...(checked?.problems ?? []), ...(doubt ? [doubt] : [])], [checked, doubt]);
  const env = useMemo(() => ((open || p.showResult) && names ? environment(names, p.around) : null), [open, p.showResult, names, p.around]);
  const result = useMemo(
    () => (env && checked?.ast && !mistake ? saidValue(evaluate(compile(checked.ast), { ...env, fuel: { left: 1_000_000 } })) : null),
    [env, checked, mistake],
  );

  const commit = () => {
    const next = text.trim();
    if (next === committed.current) return;
    committed.current = next;
    p.onCommit(next);
  };
  const close = (focus: "stay" | "input") => {
    setOpen(false);
    setWhy(false);
    closeList.current = () => false;
    if (focus === "input") {
      closing.current = true;
      input.current?.focus();
      closing.current = false;
    }
  };
  const show = () => {
    if (closing.current || open) return;
    caret.current = input.current?.selectionEnd ?? text.length;
    // Not within the event: whoever fills the field at one stroke must still find it.
    cancelAnimationFrame(opening.current);
    opening.current = requestAnimationFrame(() => setOpen(document.activeElement === input.current));
  };
  const mend = (problem: FormulaProblem) => {
    if (problem.mend) setText(problem.mend.insert);
  };
  const shown = !open && words?.[text] ? words[text] : text;
  return (
    <>
    <Radix.Root open={open}>
      <Radix.Anchor asChild>
        <input
          ref={input}
          className={classes(p.framed ? "input" : "cell", "text-ellipsis", words?.[text] && !open ? "" : "font-mono text-[0.8rem]", mistake && !open && "!border-b-brick", open && "opacity-0")}
          value={shown} title={text.length > 14 && !open ? text : undefined} placeholder={p.placeholder} spellCheck={false} autoComplete="off"
          {...(open ? { "aria-hidden": true, tabIndex: -1 } : { "aria-label": label })}
          aria-invalid={mistake ? true : undefined}
          onChange={(e) => { setText(e.target.value); caret.current = e.target.selectionEnd ?? e.target.value.length; show(); }}
          // Passing through by Tab opens nothing; writing, Enter or a click does.
          onClick={show}
          onBlur={() => { cancelAnimationFrame(opening.current); if (!open) commit(); }}
          onKeyDown={(e) => {
            if (e.key === "Enter") { e.preventDefault(); e.stopPropagation(); cancelAnimationFrame(opening.current); if (text.trim() === committed.current) show(); else { commit(); close("stay"); } }
            if (e.key === "Escape") { e.stopPropagation(); setText(committed.current); close("stay"); }
          }}
        />
      </Radix.Anchor>
      <Radix.Portal>
        <Radix.Content
          ref={panel} align="start" side="bottom" sideOffset={-34} collisionPadding={12} aria-label="Formula editor"
          className="z-[60] w-[30rem] max-w-[calc(100vw-1.5rem)] rounded border border-focus bg-raised shadow-[0_2px_10px_rgb(0_0_0/0.12)]"
          onOpenAutoFocus={(e) => e.preventDefault()} onCloseAutoFocus={(e) => e.preventDefault()}
          onEscapeKeyDown={(e) => {
            // The layer takes the key before the editor can: first it closes a list of completions, then all.
            e.preventDefault();
            if (closeList.current()) return;
            setText(committed.current);
            close("input");
          }}
          onInteractOutside={() => { commit(); close("stay"); }}
          onKeyDown={(e) => e.stopPropagation()}
        >
          <div className="flex items-start gap-2 px-2">
            <div className="min-w-0 flex-1">
              <Suspense fallback={<p className="py-1.5 font-mono text-[0.84rem]">{text || " "}</p>}>
                <Editor
                  text={text} label={label} placeholder={p.placeholder ?? ""} scope={scope} wanted={wanted} names={names ?? null} problems={marked} caret={caret.current} describedBy={id}
                  onChange={setText}
                  onEnter={() => { commit(); close("input"); }}
                  wantsFocus={() => document.activeElement === input.current || document.activeElement === document.body || panel.current?.contains(document.activeElement) === true}
                  onReady={(f) => { closeList.current = f; }}
                  onTab={(back) => { commit(); close("input"); step(input.current, back); }}
                  onMend={() => mistake && mend(mistake)}
                  onWhy={() => setWhy((w) => !w)}
                />
              </Suspense>
            </div>
            {result !== null && <span className="max-w-40 shrink-0 truncate border-l border-line py-1.5 pl-2 text-sm text-soft" title={result}>= <span className="text-ink">{result}</span></span>}
          </div>
          <FormulaPanel
            id={id} text={text} ast={checked?.ast ?? null} type={checked?.type ?? null} wanted={wanted} scope={scope} env={env} mistake={mistake} doubt={doubt} result={result} whose={p.whose ?? "the sample"}
            why={why} onWhy={setWhy} onMend={mend} onText={setText}
          />
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
    {p.showResult && <p className="mt-1 min-h-5 text-sm">{mistake ? <span className="text-brick">{mistake.message}</span> : result !== null && <span className="font-mono text-[0.8rem] [overflow-wrap:anywhere]"><span className="text-soft">= </span>{result}</span>}</p>}
    </>
  );
}

/** Tab goes on from the cell, although the editor stands elsewhere in the page. */
function step(from: HTMLElement | null, back: boolean) {
  const all = [...document.querySelectorAll<HTMLElement>('a[href], button:not(:disabled), input:not(:disabled), select:not(:disabled), textarea:not(:disabled), [tabindex]:not([tabindex="-1"])')].filter((e) => (e.tabIndex >= 0 || e === from) && e.offsetParent !== null);
  const at = from ? all.indexOf(from) : -1;
  all[at + (back ? -1 : 1)]?.focus();
}
