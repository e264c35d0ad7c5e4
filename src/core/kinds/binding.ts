import type { Edit } from "../route/edit";
import type { FormulaWalk } from "./places";
import { broken, type Binding, type LiveProcedure, type Ports } from "./ports";
import type { Say } from "./say";

const isGiven = (v: { value: string }): boolean => v.value.trim() !== "";
/** Where the formula for a port stands. */
const placeOf = (port: string): string => `value ${port}`;

/** What a formula is written for. */
export const givenBy = (b: Binding): ReadonlySet<string> =>
  new Set(b.values.filter(isGiven).map((v) => v.port));

/** The formulas that are written, each with its place. */
export const valuesGiven = (b: Binding): { field: string; place: string; formula: string }[] =>
  b.values.filter(isGiven).map(({ port, value }) => ({ field: port, place: placeOf(port), formula: value }));

/** Walks the formulas of what is handed over. */
export const bindingFormulas = (b: Binding, walk: FormulaWalk): Binding["values"] =>
  b.values.map((v) => {
    const port = b.takes.find((p) => p.id === v.port);
    const says = `what is handed over as “${port?.name ?? v.port}”`;
    const wants = { port: port ?? null };
    return { ...v, value: walk.formula({ place: placeOf(v.port), says, wants }, v.value) };
  });

/** What is wrong with what is handed over, whoever takes it. @param taker "the procedure" */
export function bindingProblems(b: Binding, taker: string, say: Say) {
  const given = givenBy(b);
  for (const p of b.takes)
    if (p.needed && !given.has(p.id))
      say(
        "error",
        "not-given",
        `“${p.name}” is needed by ${taker}, and nothing is handed over for it.`,
        placeOf(p.id),
      );
  for (const v of b.values)
    if (isGiven(v) && !b.takes.some((p) => p.id === v.port))
      say(
        "error",
        "unknown-port",
        `${taker[0]!.toUpperCase()}${taker.slice(1)} does not take this value. Take the row away.`,
        placeOf(v.port),
      );
}

/**
 * What is wrong because what is live takes or hands back otherwise by now.
 * @param edit puts these ports into the step
 */
export function outdatedProblems(
  b: Binding,
  live: LiveProcedure,
  say: Say,
  { at, edit }: { at: string; edit: (ports: Pick<Binding, "takes" | "gives">) => Edit },
) {
  const mistakes = broken(b, givenBy(b), live);
  const now: Ports = live;
  const same = JSON.stringify([b.takes, b.gives]) === JSON.stringify([now.takes, now.gives]);
  if (mistakes.length === 0 && same) return;
  const mend = {
    label: "Take over what it takes and hands back now",
    edit: edit({ takes: [...live.takes], gives: [...live.gives] }),
  };
  if (mistakes.length > 0)
    return say(
      "error",
      "other-ports",
      `“${live.name}” is otherwise by now: ${mistakes.join("; ")}.`,
      at,
      mend,
    );
  say(
    "warning",
    "new-ports",
    `“${live.name}” takes or hands back more by now, or under other names. Formulas read it as it was.`,
    at,
    mend,
  );
}
