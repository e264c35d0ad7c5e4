"use client";
import { Plus } from "lucide-react";
import {
  Fragment,
  useEffect,
  useMemo,
  useRef,
  useState,
  type ClipboardEvent,
  type KeyboardEvent,
} from "react";
import { ANY, checkFormula, INPUT, saidValue, type Scope } from "@/core/expression";
import { MOST_INPUTS, MOST_OUTPUTS, MOST_RULES, ranks, type TableRule } from "@/core/decision";
import type { Problem } from "@/core/problems";
import type { StepOf } from "@/core/route";
import { knownTexts } from "@/steps/apply/knownTexts";
import { OTHERWISE, testPlace, valuePlace } from "@/steps/apply/places";
import {
  blankRule,
  cellText,
  columnsOf,
  pastedCells,
  withCell,
  withPasted,
  type Column,
} from "@/steps/apply/tableEdits";
import { typedTest, typedValue } from "@/steps/apply/typed";
import { Button, classes, Kbd, Menu } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { newId } from "../parts/newId";
import { TextCell } from "../parts/TextCell";
import { ProblemLines } from "../route/ProblemLines";
import { InputHead, OutputHead } from "./ColumnHeads";
import type { SampleRules } from "./useSampleRules";

type Apply = StepOf<"apply">;

/** Rules that are shown at a time: each cell is a field, and a thousand rules of eight would be slow to type in. */
const SHOWN = 100;

interface Props {
  step: Apply;
  scope: Scope;
  sample: SampleRules | null;
  gap: Problem | null;
  problems: readonly Problem[];
}

/** The rules, one a row: what is tested at the left of the double line, what it comes to at the right. */
export function TableGrid({ step, scope, sample, gap, problems }: Props) {
  const d = useDraft();
  const grid = useRef<HTMLTableElement>(null);
  const [from, setFrom] = useState(0);
  /** The cell to go to once what was changed is drawn: until then another rule may stand where it is to be. */
  const [next, setNext] = useState<{ id: string; rule: number; column: number } | null>(null);
  const [said, setSaid] = useState("");
  const columns = useMemo(() => columnsOf(step), [step]);
  const scopes = useMemo(
    () =>
      step.inputs.map((i) => {
        const type = i.formula ? checkFormula(i.formula, scope).type : ANY;
        return { type, scope: { ...scope, [INPUT]: type } };
      }),
    [step.inputs, scope],
  );
  const begin = Math.min(from, Math.max(0, Math.floor((step.rules.length - 1) / SHOWN) * SHOWN));
  useEffect(() => {
    if (!next) return;
    const cell = grid.current?.querySelector<HTMLInputElement>(
      `[data-id="${next.id}"][data-rule="${next.rule}"][data-column="${next.column}"]`,
    );
    if (!cell) return;
    cell.focus();
    setNext(null);
  }, [next, step, begin]);

  const set = (patch: Partial<Apply>) => d.edit({ op: "step.set", id: step.id, patch });
  const ids = (taken: (id: string) => boolean) => newId("rule", taken);
  const typed = (c: Column, text: string): string => {
    if ("output" in c) {
      const { kind, values } = c.output;
      return typedValue(text, kind, scope, values ?? knownTexts(step, c.output) ?? undefined);
    }
    const at = scopes[step.inputs.indexOf(c.input)]!;
    return typedTest(text, at.type, at.scope);
  };
  const put = (rule: number, rules: TableRule) => set({ rules: step.rules.with(rule, rules) });
  const goTo = (rules: readonly TableRule[], rule: number, column: number) => {
    setFrom(Math.floor(rule / SHOWN) * SHOWN);
    setNext({ id: rules[rule]!.id, rule, column });
  };
  const add = (behind: number, column = 0, like?: TableRule, rules = step.rules) => {
    if (rules.length >= MOST_RULES) return setSaid(`A table has at most ${MOST_RULES} rules.`);
    const id = ids((x) => rules.some((r) => r.id === x));
    const more = rules.toSpliced(behind + 1, 0, like ? { ...like, id } : blankRule(id));
    set({ rules: more });
    goTo(more, behind + 1, column);
  };
  const remove = (rule: number, column = 0, rules = step.rules) => {
    const left = rules.toSpliced(rule, 1);
    set({ rules: left });
    if (left.length > 0) goTo(left, Math.min(rule, left.length - 1), column);
  };
  const move = (rule: number, by: 1 | -1, column = 0, rules = step.rules) => {
    const to = rule + by;
    if (to < 0 || to >= rules.length) return;
    const moved = rules.with(rule, rules[to]!).with(to, rules[rule]!);
    set({ rules: moved });
    goTo(moved, to, column);
  };
  const whereOf = (e: { target: EventTarget }) => {
    const { rule, column } = (e.target as HTMLElement).dataset;
    return rule === undefined || column === undefined ? null : { rule: Number(rule), column: Number(column) };
  };
  const onKeyDown = (e: KeyboardEvent<HTMLTableElement>) => {
    const at = whereOf(e);
    if (!at) return;
    const input = e.target as HTMLInputElement;
    const deed = keyDeed(e, input, { ...at, rules: step.rules.length, columns: columns.length });
    if (!deed) return;
    e.preventDefault();
    // What was typed is kept, and stands in what is done next: that goes by the rules as they are drawn.
    input.blur();
    const c = columns[at.column]!;
    const typing = withCell(step.rules[at.rule]!, c, typed(c, input.value));
    const rules = step.rules.with(at.rule, typing);
    switch (deed.do) {
      case "go":
        return goTo(rules, deed.rule, deed.column);
      case "add":
        return add(at.rule, deed.column, undefined, rules);
      case "remove":
        return remove(at.rule, at.column, rules);
      case "move":
        return move(at.rule, deed.by, at.column, rules);
    }
  };
  const onPaste = (e: ClipboardEvent<HTMLTableElement>) => {
    const at = whereOf(e);
    const text = e.clipboardData.getData("text/plain");
    if (!at || !/[\t\n]/.test(text.replace(/\r?\n$/, ""))) return;
    e.preventDefault();
    const { rules, left } = withPasted(step, at, pastedCells(text), typed, ids);
    set({ rules });
    const added = rules.length - step.rules.length;
    setSaid(
      `${added > 0 ? `${added} ${added === 1 ? "rule was" : "rules were"} added. ` : ""}${left > 0 ? `${left} rows were left out: a table has at most ${MOST_RULES} rules.` : ""}`,
    );
  };
  const shown = step.rules.slice(begin, begin + SHOWN);
  const holding = sample?.result && "rules" in sample.result ? new Set(sample.result.rules) : null;
  const wrongAt = useMemo(() => {
    const out = new Map<string, Problem[]>();
    for (const p of problems) {
      const place = p.where.place ?? "";
      if (/^(?:rule|test|value) /.test(place)) out.set(place, [...(out.get(place) ?? []), p]);
    }
    return out;
  }, [problems]);
  const ofRule = (id: string): Problem[] => [
    ...(wrongAt.get(`rule ${id}`) ?? []),
    ...columns.flatMap((c) => wrongAt.get(placeOf(id, c)) ?? []),
  ];
  return (
    <>
      <div className="max-h-[calc(100vh-19rem)] min-h-40 overflow-auto border-y border-line-strong">
        <table ref={grid} className="w-full border-collapse" onKeyDown={onKeyDown} onPaste={onPaste}>
          <thead className="sticky top-0 z-10 bg-ground">
            <tr className="border-b border-line-strong align-bottom">
              <th scope="col" className="w-24 py-1 text-left text-sm font-normal text-soft">
                Rule
              </th>
              {step.inputs.map((i, n) => (
                <th key={i.id} scope="col" className="min-w-36 border-l border-line text-left font-normal">
                  <InputHead step={step} input={i} number={n + 1} scope={scope} />
                  <p className="truncate px-2 pb-1 text-sm text-soft">
                    {sample &&
                      (sample.inputs[n] === undefined ? "not worked out" : saidValue(sample.inputs[n]))}
                  </p>
                </th>
              ))}
              {step.outputs.map((o, n) => (
                <th key={o.id} scope="col" className={classes("min-w-36 text-left font-normal", borderOf(n))}>
                  <OutputHead step={step} output={o} />
                </th>
              ))}
              <th scope="col" className="w-28 border-l border-line px-2 py-1 text-left font-normal">
                <span className="sr-only">More columns</span>
                <MoreColumns step={step} />
              </th>
            </tr>
          </thead>
          <tbody>
            {shown.map((r, i) => {
              const n = begin + i;
              const wrong = ofRule(r.id);
              const holds = holding?.has(n + 1) ?? false;
              return (
                <Fragment key={r.id}>
                  <tr className={classes("border-t border-line", holds && "bg-moss-wash")}>
                    <th scope="row" className="px-1 text-left font-normal whitespace-nowrap">
                      <span className="inline-flex items-center gap-1">
                        <RowMenu
                          number={n + 1}
                          last={n === step.rules.length - 1}
                          onAdd={() => add(n)}
                          onCopy={() => add(n, 0, r)}
                          onMove={(by) => move(n, by)}
                          onRemove={() => remove(n)}
                        />
                        {holds && <span className="text-sm text-moss">holds</span>}
                      </span>
                    </th>
                    {columns.map((c, k) => (
                      <td
                        key={idOf(c)}
                        className={
                          k < step.inputs.length ? "border-l border-line" : borderOf(k - step.inputs.length)
                        }
                      >
                        <span className="flex items-center">
                          <TextCell
                            className={CELL}
                            data-id={r.id}
                            data-rule={n}
                            data-column={k}
                            data-sheet=""
                            aria-label={`Rule ${n + 1}: ${nameOf(c, k)}`}
                            spellCheck={false}
                            autoComplete="off"
                            placeholder={"input" in c ? "–" : ""}
                            title={cellText(r, c)}
                            {...(wrongAt.get(placeOf(r.id, c))?.some((p) => p.severity === "error")
                              ? { "aria-invalid": true }
                              : {})}
                            value={cellText(r, c)}
                            onCommit={(text) => {
                              const kept = typed(c, text);
                              if (kept !== cellText(r, c)) put(n, withCell(r, c, kept));
                              return kept;
                            }}
                          />
                          {"input" in c && cellText(r, c) !== "" && <Passed is={sample?.passes[n]?.[k]} />}
                        </span>
                      </td>
                    ))}
                    <td className="border-l border-line" />
                  </tr>
                  {wrong.length > 0 && (
                    <tr>
                      <td />
                      <td colSpan={columns.length + 1} className="px-2 pb-1">
                        <ProblemLines problems={wrong} />
                      </td>
                    </tr>
                  )}
                </Fragment>
              );
            })}
            {gap && (
              <tr className="border-t border-line bg-[repeating-linear-gradient(45deg,var(--line)_0_1px,transparent_1px_7px)]">
                <th scope="row" className="px-1 text-left text-sm font-normal text-soft">
                  no rule
                </th>
                <td colSpan={columns.length + 1} className="px-2 py-1.5">
                  <ProblemLines problems={[gap]} />
                </td>
              </tr>
            )}
            {step.otherwise && <Otherwise step={step} typed={typed} problems={wrongAt} />}
          </tbody>
        </table>
      </div>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 pt-1.5 text-sm text-soft">
        <Button small look="quiet" onClick={() => add(step.rules.length - 1)}>
          <Plus size={14} aria-hidden /> New rule
        </Button>
        {step.rules.length > SHOWN && (
          <span className="inline-flex items-center gap-2">
            Rules {begin + 1} to {Math.min(begin + SHOWN, step.rules.length)} of {step.rules.length}
            <button
              type="button"
              className="underline disabled:text-faint disabled:no-underline"
              disabled={begin === 0}
              onClick={() => setFrom(begin - SHOWN)}
            >
              those before
            </button>
            <button
              type="button"
              className="underline disabled:text-faint disabled:no-underline"
              disabled={begin + SHOWN >= step.rules.length}
              onClick={() => setFrom(begin + SHOWN)}
            >
              those behind
            </button>
          </span>
        )}
        <span role="status" className="text-ink">
          {said}
        </span>
        <span>
          <Kbd>Enter</Kbd> below, at the end a new rule · <Kbd>Ctrl Enter</Kbd> new rule here ·{" "}
          <Kbd>Alt ↑↓</Kbd> move · <Kbd>Ctrl ⌫</Kbd> remove · paste rows, also of a spreadsheet
        </span>
      </div>
    </>
  );
}

const idOf = (c: Column): string => ("input" in c ? c.input.id : c.output.id);
const nameOf = (c: Column, k: number): string =>
  "input" in c ? c.input.formula || `input ${k + 1}` : c.output.name;
const placeOf = (rule: string, c: Column): string =>
  "input" in c ? testPlace(rule, c.input.id) : valuePlace(rule, c.output.id);
/** As wide as what stands in it, up to what a page bears. */
const CELL = "cell !w-auto max-w-88 min-w-20 grow font-mono text-[0.8rem] [field-sizing:content]";
/** Before the outputs stands a double line. */
const borderOf = (output: number): string =>
  output === 0 ? "border-l-[3px] border-double border-line-strong" : "border-l border-line";

type KeyDeed =
  | { do: "go"; rule: number; column: number }
  | { do: "add"; column: number }
  | { do: "remove" }
  | { do: "move"; by: 1 | -1 };

/** What a key does in a cell; null for what the cell does itself. */
function keyDeed(
  e: KeyboardEvent,
  input: HTMLInputElement,
  at: { rule: number; column: number; rules: number; columns: number },
): KeyDeed | null {
  const { rule, column } = at;
  const go = (r: number, c: number): KeyDeed | null =>
    r < 0 || r >= at.rules || c < 0 || c >= at.columns ? null : { do: "go", rule: r, column: c };
  if (e.ctrlKey || e.metaKey) {
    if (e.key === "Enter") return { do: "add", column: 0 };
    return e.key === "Backspace" ? { do: "remove" } : null;
  }
  if (e.altKey) {
    if (e.key === "ArrowUp") return { do: "move", by: -1 };
    return e.key === "ArrowDown" ? { do: "move", by: 1 } : null;
  }
  switch (e.key) {
    case "Enter":
      if (e.shiftKey) return go(rule - 1, column);
      return go(rule + 1, column) ?? { do: "add", column };
    case "ArrowUp":
      return go(rule - 1, column);
    case "ArrowDown":
      return go(rule + 1, column);
    case "ArrowLeft":
      return input.selectionStart === 0 && input.selectionEnd === 0 ? go(rule, column - 1) : null;
    case "ArrowRight":
      return input.selectionStart === input.value.length ? go(rule, column + 1) : null;
    default:
      return null;
  }
}

/** Whether the sample passes a test. */
function Passed({ is }: { is: boolean | null | undefined }) {
  if (is === undefined) return null;
  const said = is ? "yes" : "no";
  const says = is === null ? "not worked out" : said;
  return <span className={classes("shrink-0 px-1.5 text-sm", is ? "text-moss" : "text-faint")}>{says}</span>;
}

function RowMenu(p: {
  number: number;
  last: boolean;
  onAdd(): void;
  onCopy(): void;
  onMove(by: 1 | -1): void;
  onRemove(): void;
}) {
  return (
    <Menu
      align="start"
      trigger={
        <button
          type="button"
          className="min-h-8 min-w-8 rounded text-right tabular-nums hover:bg-slate-wash"
          aria-label={`Rule ${p.number}`}
        >
          {p.number}
        </button>
      }
      groups={[
        {
          items: [
            { id: "add", label: "New rule below", onPick: p.onAdd },
            { id: "copy", label: "The same once more", onPick: p.onCopy },
            { id: "up", label: "Move up", onPick: () => p.onMove(-1), disabled: p.number === 1 },
            { id: "down", label: "Move down", onPick: () => p.onMove(1), disabled: p.last },
          ],
        },
        { items: [{ id: "remove", label: "Remove", onPick: p.onRemove, bad: true }] },
      ]}
    />
  );
}

function MoreColumns({ step }: { step: Apply }) {
  const d = useDraft();
  const set = (patch: Partial<Apply>) => d.edit({ op: "step.set", id: step.id, patch });
  const ids = (name: string) =>
    newId(name, (x) => step.inputs.some((i) => i.id === x) || step.outputs.some((o) => o.id === x));
  const free = (n: number): string => {
    const name = n === 1 ? "Result" : `Result ${n}`;
    return step.outputs.some((o) => o.name === name) ? free(n + 1) : name;
  };
  return (
    <Menu
      trigger={
        <Button small look="quiet">
          <Plus size={14} aria-hidden /> Column
        </Button>
      }
      groups={[
        {
          items: [
            {
              id: "input",
              label: "Something that is looked at",
              disabled: step.inputs.length >= MOST_INPUTS,
              onPick: () => void set({ inputs: [...step.inputs, { id: ids("input"), formula: "" }] }),
            },
            {
              id: "output",
              label: "Something it comes to",
              disabled: step.outputs.length >= MOST_OUTPUTS,
              onPick: () =>
                void set({
                  outputs: [
                    ...step.outputs,
                    {
                      id: ids("output"),
                      name: free(1),
                      kind: "text",
                      ...(ranks(step.hits) ? { values: [] } : {}),
                    },
                  ],
                }),
            },
          ],
        },
      ]}
    />
  );
}

/** What it comes to where no rule holds. */
function Otherwise({
  step,
  typed,
  problems,
}: {
  step: Apply;
  typed(c: Column, text: string): string;
  problems: ReadonlyMap<string, Problem[]>;
}) {
  const d = useDraft();
  const cells = { when: [], then: step.otherwise ?? [] };
  const wrong = step.outputs.flatMap((o) => problems.get(valuePlace(OTHERWISE, o.id)) ?? []);
  return (
    <>
      <tr className="border-t border-line-strong">
        <th scope="row" colSpan={step.inputs.length + 1} className="px-1 text-left font-normal text-soft">
          otherwise
        </th>
        {step.outputs.map((output, n) => (
          <td key={output.id} className={borderOf(n)}>
            <span className="flex">
              <TextCell
                className={CELL}
                aria-label={`Otherwise: ${output.name}`}
                spellCheck={false}
                autoComplete="off"
                value={cellText(cells, { output })}
                onCommit={(text) => {
                  const kept = typed({ output }, text);
                  const { then } = withCell({ id: "", ...cells }, { output }, kept);
                  d.edit({ op: "step.set", id: step.id, patch: { otherwise: then } });
                  return kept;
                }}
              />
            </span>
          </td>
        ))}
        <td className="border-l border-line" />
      </tr>
      {wrong.length > 0 && (
        <tr>
          <td />
          <td colSpan={step.inputs.length + step.outputs.length + 1} className="px-2 pb-1">
            <ProblemLines problems={wrong} />
          </td>
        </tr>
      )}
    </>
  );
}
