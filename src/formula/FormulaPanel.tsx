"use client";
import Link from "next/link";
import { lazy, Suspense, useState } from "react";
import {
  typeInWords,
  type Env,
  type FormulaProblem,
  type Node,
  type Scope,
  type Type,
} from "@/core/expression";
import { Button } from "@/ui";
import { mistakeLook } from "./mistakeLook";

// Opened on demand, so loaded on demand.
const RowsEditor = lazy(() => import("./RowsEditor"));
const TraceView = lazy(() => import("./TraceView"));

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
  return (
    <>
      <div id={p.id} role="status" className="min-h-5">
        {p.mistake ? (
          <span className={mistakeLook(p.mistake, p.text)}>{p.mistake.message}</span>
        ) : p.text.trim() === "" ? (
          <span className="text-soft">
            {condition ? "A condition: it comes to yes or no." : `It comes to ${typeInWords(p.wanted)}.`}{" "}
            Start typing, or press Ctrl Space to see what there is.
          </span>
        ) : p.result !== null ? (
          <span>
            For {p.whose}: <strong className="font-semibold">{p.result}</strong>
          </span>
        ) : (
          p.type && <span className="text-soft">Comes to {typeInWords(p.type)}.</span>
        )}
        {p.doubt && <p className="text-lichen">{p.doubt.message} Then this comes to nothing.</p>}
      </div>
      <div className="mt-1 flex flex-wrap items-center gap-1.5">
        {p.mistake?.mend && (
          <Button small look="main" onClick={() => p.onMend(p.mistake!)}>
            Write {p.mistake.mend.label} <span className="opacity-80">Ctrl .</span>
          </Button>
        )}
        {p.env && p.ast && !p.mistake && (
          <Button small aria-expanded={p.why} onClick={() => p.onWhy(!p.why)}>
            Why? <span className="text-soft">Alt W</span>
          </Button>
        )}
        {condition && (
          <Button small aria-pressed={picking} onClick={() => setPicking(!picking)}>
            {picking ? "Only text" : "As rows"}
          </Button>
        )}
        <Link className="link ml-auto text-soft" href="/workshop/formulas" target="_blank">
          All functions
        </Link>
      </div>
      <Suspense>
        {p.why && p.env && p.ast && !p.mistake && <TraceView text={p.text} ast={p.ast} env={p.env} />}
        {picking && condition && (
          <RowsEditor text={p.text} broken={p.mistake !== null} scope={p.scope} onText={p.onText} />
        )}
      </Suspense>
    </>
  );
}
