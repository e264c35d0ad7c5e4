"use client";
import { ChevronDown, ChevronRight } from "lucide-react";
import { memo } from "react";
import type { Scope } from "@/core/expression";
import { portsOf, stepKind } from "@/core/kinds";
import { heldBy, placesOf, type Step } from "@/core/route";
import type { Problem } from "@/core/problems";
import { KINDS } from "@/kinds";
import { classes, Pebble } from "@/ui";
import { StepHere, useDragRow, useDraft, useKindViews } from "../parts";
import { calledIn } from "../draft/calledIn";
import type { RowDeeds } from "./rowDeeds";
import type { AfterStep } from "./useSampleValues";
import { ProblemLines } from "./ProblemLines";
import { StartRows } from "./StartRows";
import { RowTools } from "./RowTools";
import type { SheetRow } from "./rows";
import { StepNote } from "./StepNote";
import { StepStage } from "./StepStage";

interface Props {
  row: SheetRow;
  chosen: boolean;
  picking: boolean;
  /** Which line below it is being written. */
  noting: "note" | "stage" | null;
  /** As it was when it was made, as long as nobody has touched it: it does not complain yet. */
  fresh: Step | null;
  scope: Scope;
  /** The values after it for the sample; null where nobody asked, or it gives none. */
  after: AfterStep | null;
  deeds: RowDeeds;
}

/** Rows are made anew with every change of the route; what they say mostly stays. */
const same = (a: Props, b: Props): boolean =>
  a.chosen === b.chosen &&
  a.picking === b.picking &&
  a.noting === b.noting &&
  a.fresh === b.fresh &&
  a.scope === b.scope &&
  a.after === b.after &&
  a.deeds === b.deeds &&
  sameRow(a.row, b.row);
function sameRow(a: SheetRow, b: SheetRow): boolean {
  if (a.kind !== b.kind || a.id !== b.id || a.number !== b.number || a.depth !== b.depth) return false;
  if (a.kind === "step" && b.kind === "step")
    return (
      a.step === b.step &&
      a.index === b.index &&
      a.siblings === b.siblings &&
      a.ref.owner === b.ref.owner &&
      a.ref.list === b.ref.list &&
      a.under?.folded === b.under?.folded &&
      a.under?.steps === b.under?.steps
    );
  if (a.kind === "list" && b.kind === "list") return a.owner === b.owner && a.index === b.index;
  return true;
}

/** One line of the route sheet. */
export const RouteRow = memo(function RouteRow({
  row,
  chosen,
  picking,
  noting,
  fresh,
  scope,
  after,
  deeds,
}: Props) {
  const drag = useDragRow(row.id, row.number, row.kind === "step");
  const onPath = useDraft((d) => {
    if (!d.path) return false;
    if (row.kind === "list") return d.path.lists.includes(row.id);
    return row.kind === "start" || d.path.steps.includes(row.id);
  });
  return (
    <li
      ref={drag.ref}
      className={classes(
        // Out of sight it is neither laid out nor drawn.
        "[overflow-clip-margin:4px] [contain-intrinsic-block-size:auto_56px] [content-visibility:auto]",
        drag.isOver && "shadow-[0_2px_0_var(--moss)]",
        drag.isDragged && "outline-1 -outline-offset-1 outline-dashed outline-line-strong",
      )}
      style={{ paddingLeft: row.depth * 20 }}
    >
      <div
        id={`step-${row.id}`}
        tabIndex={0}
        role="group"
        aria-label={rowLabel(row)}
        onKeyDown={(e) => deeds.key(e, row)}
        onFocus={() => deeds.choose(row)}
        onPointerDown={() => deeds.choose(row)}
        className={classes(
          "group relative flex items-start gap-1.5 rounded-sm px-1.5 py-[2px] focus-visible:!-outline-offset-2",
          row.kind !== "list" && "mt-1",
          row.kind === "step" && row.under && "border-b border-line",
          chosen ? "bg-slate-wash" : "bg-ground hover:bg-sheet",
        )}
      >
        {drag.grip("mt-1.5 -ml-1", chosen ? 0 : -1)}
        <span className={classes("mt-[3px] flex min-w-10 shrink-0 justify-start pr-1.5")}>
          <Mark row={row} onPath={onPath} deeds={deeds} />
        </span>
        <div className="min-w-0 flex-1 leading-[1.75]">
          <StepHere value={stepOf(row)}>
            <RowText row={row} scope={scope} />
          </StepHere>
          {row.kind === "step" && (noting === "stage" || row.step.stage !== undefined) && (
            <StepStage
              step={row.step}
              writing={noting === "stage"}
              onWriting={(yes) => deeds.noting(row, yes ? "stage" : null)}
            />
          )}
          {row.kind === "step" && (noting === "note" || row.step.note !== undefined) && (
            <StepNote
              step={row.step}
              writing={noting === "note"}
              onWriting={(yes) => deeds.noting(row, yes ? "note" : null)}
            />
          )}
          {after && <After of={after} />}
          {row.kind !== "list" && !(row.kind === "step" && row.step === fresh) && <RowProblems row={row} />}
        </div>
        <RowTools row={row} chosen={chosen} picking={picking} deeds={deeds} />
      </div>
    </li>
  );
}, same);

/** What a row is told by at its head: its number, or how to fold what stands under it. */
function Mark({ row, onPath, deeds }: { row: SheetRow; onPath: boolean; deeds: RowDeeds }) {
  if (row.kind === "list")
    return (
      <span className={classes("pt-0.5 text-sm", onPath ? "font-medium text-moss" : "text-soft")}>
        {row.number}
      </span>
    );
  if (row.kind === "step" && row.under) {
    const { folded } = row.under;
    return (
      <button
        type="button"
        tabIndex={-1}
        className="flex size-7 items-center justify-center text-soft"
        aria-label={`${folded ? "Unfold" : "Fold"} ${row.step.name}`}
        aria-expanded={!folded}
        onClick={() => deeds.fold(row, !folded)}
      >
        {folded ? <ChevronRight size={16} aria-hidden /> : <ChevronDown size={16} aria-hidden />}
      </button>
    );
  }
  return <Pebble tone={onPath ? "here" : "plain"}>{row.number}</Pebble>;
}

function stepOf(row: SheetRow): string | null {
  switch (row.kind) {
    case "start":
      return null;
    case "step":
      return row.id;
    case "list":
      return row.owner.id;
  }
}

function rowLabel(row: SheetRow): string {
  switch (row.kind) {
    case "start":
      return "1, start";
    case "step":
      if (row.under) return `${stepKind(KINDS, row.step).verb}, ${row.step.name}, ${steps(row.under.steps)}`;
      return `${row.number}, ${stepKind(KINDS, row.step).verb}, ${row.step.name}`;
    case "list":
      return `${row.number}, where this leads`;
  }
}

/** What stands under a heading that is folded: how many steps, and whether anything is wrong with them. */
function Folded({ step, count }: { step: Step; count: number }) {
  const wrong = useDraft((d) =>
    [...placesOf({ route: [step] }, KINDS).keys()]
      .filter((id) => id !== step.id)
      .reduce((n, id) => n + d.problemsAt("step", id).length, 0),
  );
  return (
    <span className="text-sm text-soft">
      {steps(count)}
      {wrong > 0 && <span className="text-brick">, {wrong === 1 ? "1 problem" : `${wrong} problems`}</span>}
    </span>
  );
}

/** "after this Found is a list of 3: Rope; Sail; Anchor", a line for each value. */
function After({ of }: { of: AfterStep }) {
  return (
    <ul aria-label="Values after this step" className="text-sm leading-snug text-slate">
      {of.values.map((v, i) => (
        <li key={i}>
          {v.round && `${v.round}: `}
          after this <span className="font-medium">{v.name}</span> is {v.value}
        </li>
      ))}
      {of.more > 0 && <li>and {of.more} more</li>}
    </ul>
  );
}

const steps = (n: number): string => `${n} ${n === 1 ? "step" : "steps"}`;

function RowText({ row, scope }: { row: SheetRow; scope: Scope }) {
  const views = useKindViews().steps;
  switch (row.kind) {
    case "start":
      return <StartText />;
    case "list": {
      const view = views[row.owner.kind];
      const { lists } = stepKind(KINDS, row.owner);
      const list = lists && heldBy(row.owner, lists).find((h) => h.id === row.list);
      return view.ListHead && list ? (
        <view.ListHead step={row.owner} list={list} scope={scope} last={row.last} />
      ) : null;
    }
    case "step": {
      const { icon: Icon, Sentence } = views[row.step.kind];
      if (row.under)
        return (
          <>
            <Sentence step={row.step} scope={scope} />
            {row.under.folded && <Folded step={row.step} count={row.under.steps} />}
          </>
        );
      return (
        <>
          <Icon
            size={15}
            strokeWidth={1.6}
            aria-hidden
            className="mr-1.5 inline-block align-[-2px] text-soft"
          />
          <span className="mr-1 font-medium">{stepKind(KINDS, row.step).verb}</span>
          <Sentence step={row.step} scope={scope} />
          <Asked step={row.id} />
        </>
      );
    }
  }
}

function StartText() {
  const procedure = useDraft((d) => d.definition.procedure);
  const fields = useDraft((d) => d.definition.fields);
  if (procedure) {
    const taken = portsOf(fields).takes.map((p) => p.name);
    return (
      <>
        <span className="font-medium">Start</span> ·{" "}
        {taken.length > 0
          ? `a process hands over ${taken.join(", ")}`
          : "a process hands to it, and gives no values yet: say on the form sheet what is handed in"}
      </>
    );
  }
  return <StartRows />;
}

/** Whom the step asks for the sample. */
function Asked({ step }: { step: string }) {
  const words = useDraft((d) => {
    const people = d.path?.asked[step]?.people ?? [];
    const names = people.slice(0, 3).map(calledIn(d.factsData.people, d.path));
    return `${names.join(", ")}${people.length > 3 ? ` and ${people.length - 3} more` : ""}`;
  });
  return words ? <span className="ml-2 text-sm text-moss">{words}</span> : null;
}

function RowProblems({ row }: { row: SheetRow }) {
  // Those of starts stand at each of them.
  const problems = useDraft((d) => (row.kind === "step" ? d.problemsAt("step", row.id) : NONE));
  return <ProblemLines problems={problems} />;
}
const NONE: readonly Problem[] = [];
