"use client";
import Link from "next/link";
import { lazy, Suspense, useId, useMemo } from "react";
import {
  ANY,
  checkTemplate,
  compile,
  environment,
  templateText,
  valueInText,
  type Names,
  type Scope,
  type Surroundings,
} from "@/core/expression";
import { Button, classes } from "@/ui";
import { mistakeLook } from "./mistakeLook";
import { useWriting } from "./useWriting";
import { WritingField } from "./WritingField";

const TraceView = lazy(() => import("./TraceView"));

export interface TemplateFieldProps {
  value: string;
  onCommit(text: string): void;
  scope: Scope;
  around: Surroundings;
  names?: Names | null;
  whose?: string;
  label: string;
  lines?: number;
  /** Whether a name is that of a sum of money, which reads with its cents. */
  money(name: string): boolean;
  /** Whether a name is that of a field worked out as a sum: one of nothing reads as 0. */
  sum(name: string): boolean;
}

const asWritten = (text: string) => text;

/** A text with formulas in {braces}: completion and checks inside the braces, and the whole as it will read. */
export function TemplateField(p: TemplateFieldProps) {
  const { scope, names, lines = 1 } = p;
  const draft = useWriting(p.value, p.onCommit, asWritten);
  const { text, open } = draft;
  const id = useId();
  const { problems, parts } = useMemo(() => checkTemplate(text, scope), [text, scope]);
  const mistake = problems[0] ?? null;
  const env = useMemo(() => (names ? environment(names, p.around) : null), [names, p.around]);
  const { money, sum } = p;
  const read = useMemo(() => {
    if (!env || mistake) return null;
    const programs = new Map(
      parts.flatMap(({ formula, checked: { ast } }) =>
        ast ? [[formula, { ast, program: compile(ast) }] as const] : [],
      ),
    );
    return templateText(
      text,
      (f) => {
        const { ast, program } = programs.get(f)!;
        return valueInText(ast, program, { ...env, fuel: { left: 1_000_000 } }, sum);
      },
      money,
    );
  }, [env, mistake, parts, text, money, sum]);
  const mend = () => {
    if (mistake?.mend) draft.setText(mistake.mend.insert);
  };
  return (
    <>
      <WritingField
        draft={draft}
        writing="template"
        scope={scope}
        wanted={ANY}
        names={names ?? null}
        label={p.label}
        lines={lines}
        shown={text}
        look={classes("input", lines === 1 && "text-ellipsis")}
        wrong={mistake !== null}
        problems={problems}
        describedBy={id}
        onMend={mend}
      >
        <div id={id} role="status" className="min-h-5">
          {mistake ? (
            <span className={mistakeLook(mistake, text.replace(/[}\s]+$/, ""))}>{mistake.message}</span>
          ) : read !== null && parts.length > 0 ? (
            <>
              <span className="text-soft">For {p.whose ?? "the sample"}: </span>
              <span className="font-medium whitespace-pre-wrap">{read || "empty"}</span>
            </>
          ) : (
            parts.length === 0 && (
              <span className="text-soft">
                Write {"{"} to put a value in, for example {"{Request.number}"}.
              </span>
            )
          )}
        </div>
        <div className="mt-1 flex flex-wrap items-center gap-1.5">
          {mistake?.mend && (
            <Button small look="main" onClick={mend}>
              Write {mistake.mend.label} <span className="opacity-80">Ctrl .</span>
            </Button>
          )}
          {env && !mistake && parts.length > 0 && (
            <Button small aria-expanded={draft.why} onClick={() => draft.setWhy(!draft.why)}>
              Why? <span className="text-soft">Alt W</span>
            </Button>
          )}
          {lines > 1 && <span className="text-soft">Ctrl Enter keeps it</span>}
          <Link className="link ml-auto text-soft" href="/workshop/formulas" target="_blank">
            All functions
          </Link>
        </div>
        <Suspense>
          {draft.why &&
            env &&
            !mistake &&
            parts.map(
              (x) =>
                x.checked.ast && <TraceView key={x.from} text={x.formula} ast={x.checked.ast} env={env} />,
            )}
        </Suspense>
      </WritingField>
      {/* Its place is kept under the open editor: what stands around must not move when it opens. */}
      {mistake ? (
        <p className={classes("mt-0.5 text-sm text-brick", open && "invisible")}>{mistake.message}</p>
      ) : (
        read !== null &&
        parts.length > 0 && (
          <p className={classes("mt-0.5 text-sm whitespace-pre-wrap", open && "invisible")}>
            <span className="text-soft">For {p.whose ?? "the sample"}: </span>
            {read || "empty"}
          </p>
        )
      )}
    </>
  );
}
