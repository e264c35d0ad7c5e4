"use client";
import Link from "next/link";
import { useState } from "react";
import { rowsOf, typeInWords, type Env, type FormulaProblem, type Node, type Scope, type Type } from "@/core/expression";
import { Button } from "@/ui";
import { RowsEditor } from "./RowsEditor";
import { TraceView } from "./TraceView";

interface Props {
  id: string;
  text: string;
  ast: Node | null;
  type: Type | null;
  wanted: Type;
  scope: Scope;
  env: Env | null;
  mistake: FormulaProblem | null;
  doubt: FormulaProblem | null;
  result: string | null;
  whose: string;
  why: boolean;
  onWhy(open: boolean): void;
  onMend(p: FormulaProblem): void;
  onText(text: string): void;
}

/** What stands under a formula while it is written. */
export function FormulaPanel(p: Props) {
  const [picking, setPicking] = useState(false);
  const condition = p.wanted.t === "yesno";
  // A name that is being typed is not wrong yet.
  const unfinished = p.mistake !== null && (p.mistake.code === "unknown-name" || p.mistake.code === "syntax") && p.mistake.to >= p.text.trimEnd().length;
  const tooRich = condition && picking && rowsOf(p.text, p.scope) === null;
  return (
    <div className="border-t border-line px-2 py-1.5 text-sm">
      <div id={p.id} role="status" className="min-h-5">
        {p.mistake ? <span className={unfinished ? "text-soft" : "text-brick"}>{p.mistake.message}</span>
          : p.text.trim() === "" ? <span className="text-soft">{condition ? "A condition: it comes to yes or no." : `It comes to ${typeInWords(p.wanted)}.`} Start typing, or press Ctrl Space to see what there is.</span>
          : p.result !== null ? <span>For {p.whose}: <strong className="font-semibold">{p.result}</strong></span>
          : p.type && <span className="text-soft">Comes to {typeInWords(p.type)}.</span>}
        {p.doubt && <p className="text-lichen">{p.doubt.message} Then this comes to nothing.</p>}
      </div>
      <div className="mt-1 flex flex-wrap items-center gap-1.5">
        {p.mistake?.mend && <Button small look="main" onClick={() => p.onMend(p.mistake!)}>Write {p.mistake.mend.label} <span className="opacity-80">Ctrl .</span></Button>}
        {p.env && p.ast && !p.mistake && <Button small aria-expanded={p.why} onClick={() => p.onWhy(!p.why)}>Why? <span className="text-soft">Alt W</span></Button>}
        {condition && <Button small aria-pressed={picking} onClick={() => setPicking(!picking)}>{picking ? "Only text" : "As rows"}</Button>}
        <Link className="link ml-auto text-soft" href="/workshop/formulas" target="_blank">All functions</Link>
      </div>
      {p.why && p.env && p.ast && !p.mistake && <TraceView text={p.text} ast={p.ast} env={p.env} />}
      {picking && condition && (tooRich
        ? <p className="mt-2 border-t border-line pt-2 text-soft">{p.mistake ? "Mend the text first; then it can be shown as rows." : "This formula says more than rows can; it stays text."}</p>
        : <RowsEditor text={p.text} scope={p.scope} onText={p.onText} />)}
    </div>
  );
}
