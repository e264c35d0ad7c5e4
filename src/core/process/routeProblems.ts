import { flatFields, type Registers } from "../form";
import { uncovered } from "./coverage";
import type { ProcessDefinition, Step } from "./definition";
import { place, type Problem } from "./problem";
import { branchesAround, following, listsOf, type StepPlace } from "./route";

/** What is wrong with the route: what leads nowhere, what nothing leads to, what is not said. */
export function routeProblems(
  d: ProcessDefinition,
  places: ReadonlyMap<string, StepPlace>,
  registers: Registers,
  out: Problem[],
) {
  const last = d.route.at(-1);
  if (last && !leavesForGoodList(d.route))
    out.push({
      severity: "warning",
      code: "no-finish",
      where: place("step", last.id),
      message: `The route runs off its end here; the request would end as "Done".`,
      mend: {
        label: "Add a Finish",
        edit: {
          op: "step.add",
          to: { owner: null, list: null },
          index: d.route.length,
          step: {
            id: freshId(places, "finish"),
            name: "Finish",
            kind: "finish",
            result: "Done",
            tone: "agree",
          },
        },
      },
    });
  for (const p of places.values()) {
    const { step } = p;
    const say = (
      severity: Problem["severity"],
      code: string,
      message: string,
      at?: string,
      mend?: Problem["mend"],
    ) => out.push({ severity, code, where: place("step", step.id, at), message, ...(mend ? { mend } : {}) });
    const next = p.list[p.index + 1];
    if (next && leavesForGood(step))
      out.push({
        severity: "error",
        code: "unreachable",
        where: place("step", next.id),
        message: `Nothing leads here: step ${p.number} never goes on.`,
        mend: { label: "Remove this step", edit: { op: "step.remove", id: next.id } },
      });
    switch (step.kind) {
      case "decide":
        if (step.answers.length === 0)
          say(
            "error",
            "no-answers",
            `"${step.name}" has no answers: whoever is asked could say nothing.`,
            "answers",
          );
        else if (step.answers.every((a) => a.returns))
          say(
            "error",
            "only-returns",
            `Every answer of "${step.name}" sends the request back; it could never go on.`,
            "answers",
          );
        for (const [i, a] of step.answers.entries())
          if (
            step.answers.findIndex((b) => b.label.trim().toLowerCase() === a.label.trim().toLowerCase()) < i
          )
            say("error", "answer-twice", `Two answers of "${step.name}" are called "${a.label}".`, "answers");
        whoProblems(step, say);
        break;
      case "complete":
        whoProblems(step, say);
        break;
      case "choose": {
        if (step.ways.length === 0) say("error", "no-ways", `"${step.name}" has no ways to choose from.`);
        const open = step.ways.findIndex((w) => !w.when);
        if (open >= 0 && open < step.ways.length - 1)
          say(
            "error",
            "way-never",
            `The way "${step.ways[open + 1]!.name}" is never taken: "${step.ways[open]!.name}" before it has no condition.`,
          );
        if (open < 0 && step.ways.length > 0) {
          const example = uncovered(step, d, registers);
          say(
            "error",
            "falls-through",
            example ?? `A request for which none of the conditions holds has no way on.`,
            "ways",
            {
              label: "Add a way for all others",
              edit: {
                op: "step.put",
                step: {
                  ...step,
                  ways: [...step.ways, { id: `${step.id}-other`, name: "otherwise", steps: [] }],
                },
              },
            },
          );
        }
        break;
      }
      case "together":
        if (step.branches.length < 2)
          say(
            "warning",
            "one-branch",
            `"${step.name}" has ${step.branches.length === 1 ? "one branch" : "no branches"}; side by side needs two.`,
          );
        break;
      case "write": {
        const shape = registers[step.register];
        if (!shape)
          say(
            "error",
            "no-register",
            step.register ? `There is no register "${step.register}".` : "Say which register is written.",
            "register",
          );
        if (step.op !== "add" && !step.record)
          say("error", "no-record-rule", "Say which record is meant, for example: Store.", "record");
        if (step.op !== "remove" && step.values.length === 0)
          say("error", "no-values", "Nothing is written: add a column and its value.", "values");
        for (const v of step.values)
          if (shape && !shape.columns.some((c) => c.id === v.column))
            say("error", "no-column", `${shape.name} has no column "${v.column}".`, "values");
        if (shape && step.op === "add")
          for (const c of shape.columns)
            if (c.needed && !step.values.some((v) => v.column === c.id))
              say("error", "column-needed", `A new ${shape.one} needs "${c.name}".`, "values");
        if (step.each && !flatFields(d.fields).some((f) => f.kind === "lines" && f.name === step.each))
          say("error", "no-lines", `There are no line items called "${step.each}".`, "each");
        if (step.into) {
          const f = flatFields(d.fields).find((x) => x.id === step.into);
          if (f?.kind !== "look-up" || f.register !== step.register)
            say(
              "error",
              "bad-into",
              "The new record can only be kept in a look-up field of the same register.",
              "into",
            );
        }
        break;
      }
      case "work out":
        for (const v of step.set)
          if (!flatFields(d.fields).some((f) => f.id === v.field))
            say("error", "no-field", `There is no field "${v.field}".`, "set");
        if (step.set.length === 0) say("warning", "sets-nothing", "This step sets nothing yet.");
        break;
      case "jump": {
        const target = places.get(step.to);
        if (!target) say("error", "bad-jump", "Say which step to go on with.", "to");
        else if (branchesAround(target).join() !== branchesAround(p).join())
          say(
            "error",
            "jump-across",
            `A jump cannot go into or out of branches that run side by side: step ${target.number} stands in other branches than this one.`,
            "to",
          );
        else if (spins(step.id, places))
          say("error", "endless", `From here the route runs in a circle without ever asking anybody.`, "to");
        break;
      }
      case "finish":
        if (!step.result.trim())
          say("error", "no-result", "Name the result, for example: approved.", "result");
        break;
    }
  }
}

type Say = (severity: Problem["severity"], code: string, message: string, at?: string) => void;

function whoProblems(step: Extract<Step, { kind: "decide" | "complete" }>, say: Say) {
  if (step.kind === "decide" && step.who.rule.by === "requester" && !step.who.requesterToo)
    say("error", "own-request", "The requester would decide their own request.", "who");
  if (step.who.how === "share" && (step.who.share ?? 50) > 100)
    say("error", "bad-share", `${step.who.share}% of the people cannot agree.`, "who");
  if (step.who.rule.by === "formula" && !step.who.rule.formula.trim())
    say("error", "no-who", "Say who is asked.", "who");
  const l = step.limit;
  if (l && !(l.otherwise.amount > 0))
    say("error", "bad-limit", "A time limit is longer than nothing, for example: 2 working days.", "limit");
  for (const r of l?.rungs ?? []) {
    if (r.action.do === "answer" && step.kind === "decide") {
      const wanted = r.action.answer;
      if (!step.answers.some((a) => a.id === wanted))
        say("error", "rung-answer", "The ladder answers with an answer this step does not have.", "limit");
    }
    if (r.every && !(r.every.amount > 0))
      say("error", "bad-every", "A rung repeats after some time, for example: 1 working day.", "limit");
  }
}

/** Whether nothing that enters this step ever goes on behind it in its list. */
function leavesForGood(s: Step): boolean {
  if (s.kind === "finish" || s.kind === "jump") return true;
  if (s.kind === "decide")
    return s.answers.length > 0 && s.answers.every((a) => a.returns || leavesForGoodList(a.steps));
  if (s.kind === "choose")
    return (
      s.ways.length > 0 && s.ways.every((w) => leavesForGoodList(w.steps)) && s.ways.some((w) => !w.when)
    );
  if (s.kind === "together") return s.branches.some((b) => !b.when && leavesForGoodList(b.steps));
  return false;
}
const leavesForGoodList = (l: readonly Step[]): boolean => l.some(leavesForGood);

const freshId = (places: ReadonlyMap<string, unknown>, stem: string): string => {
  let n = 1;
  while (places.has(`${stem}-${n}`)) n++;
  return `${stem}-${n}`;
};

/** Whether steps that ask nobody lead from a step back to itself. */
function spins(from: string, places: ReadonlyMap<string, StepPlace>): boolean {
  const seen = new Set<string>();
  const visit = (id: string): boolean => {
    const step = places.get(id)?.step;
    if (!step || step.kind === "decide" || step.kind === "complete") return false;
    const next = nextOf(step, places);
    return next.some((n) => n === from || (!seen.has(n) && (seen.add(n), visit(n))));
  };
  return visit(from);
}

function nextOf(step: Step, places: ReadonlyMap<string, StepPlace>): string[] {
  if (step.kind === "jump") return [step.to];
  if (step.kind === "finish") return [];
  const after = following(places, step.id);
  const behind =
    after && after !== "branch end"
      ? [after.id]
      : after === "branch end"
        ? [places.get(step.id)!.owners.at(-1)!.step.id].flatMap((t) => {
            const f = following(places, t);
            return f && f !== "branch end" ? [f.id] : [];
          })
        : [];
  const lists = listsOf(step);
  if (lists.length === 0) return behind;
  return [...lists.flatMap((l) => (l.steps[0] ? [l.steps[0].id] : [])), ...behind];
}
