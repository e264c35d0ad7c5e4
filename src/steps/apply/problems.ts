import { exampleText } from "@/core/conditions";
import { givesList, ranks, type Example } from "@/core/decision";
import { isNum, nameMistake } from "@/core/expression";
import type { StepProblems } from "@/core/kinds";
import { cellOf, textIn } from "./knownTexts";
import { proofOf } from "./proofOf";
import type { Apply } from "./shape";
import { isBlank } from "./tableEdits";

/** What is wrong with a table, before any request goes through it. */
export function problems(s: Apply, { say, scope, definition }: StepProblems) {
  const mistake = nameMistake(s.name);
  if (mistake !== null)
    say("error", "bad-name", `What it comes to is read by the name of the step. ${mistake}`, "name");
  parts(s, say);
  if (s.rules.length === 0) return;
  const proof = proofOf(s, scope, definition.fields);
  const values = (at: Example) => valuesSaid(s, at);
  for (const { rule, why } of proof.never)
    say(
      "error",
      "rule-never",
      why === "impossible"
        ? `Rule ${rule + 1} never holds: nothing passes one of its tests.`
        : `Rule ${rule + 1} is never gone by: wherever it holds, ${s.hits === "priority" ? "one that ranks higher holds as well" : "one before it holds as well"}.`,
      `rule ${s.rules[rule]!.id}`,
    );
  const differ = s.hits === "any" ? ", and come to different things" : "; only one of the rules may";
  for (const sure of [true, false]) {
    const severity = sure ? "error" : "warning";
    const do_ = sure ? "both" : "may both";
    const pairs = proof.overlaps.filter((o) => o.sure === sure).slice(0, NAMED);
    for (const { first, second, at } of pairs)
      say(
        severity,
        "rules-overlap",
        `Rules ${first + 1} and ${second + 1} ${do_} hold for ${values(at)}${differ}.`,
        `rule ${s.rules[second]!.id}`,
      );
    const more = proof.overlapping[sure ? "sure" : "unsure"] - pairs.length;
    if (more > 0)
      say(severity, "rules-overlap", `So ${sure ? "do" : "may"} ${more} other pairs of rules.`, "rules");
  }
  if (!s.otherwise && !s.none && !givesList(s) && s.gathers !== "count") gap(s, proof, say);
  if (proof.partly)
    say(
      "warning",
      "not-proved",
      `“${s.name}” has too many rules of too many shapes to be looked at whole: rules that never hold or hold at once may not be told.`,
      "rules",
    );
}

/** Pairs that are told one by one. */
const NAMED = 5;

function gap(s: Apply, proof: ReturnType<typeof proofOf>, say: StepProblems["say"]) {
  const mend = {
    label: "Say what holds otherwise",
    edit: { op: "step.set" as const, id: s.id, patch: { otherwise: [] } },
  };
  if (proof.gap === "not proved")
    say(
      "warning",
      "not-proved",
      `That some rule of “${s.name}” holds for all there may be could not be proved; where none does the request stops.`,
      "rules",
      mend,
    );
  else if (proof.gap !== "none")
    say(
      proof.gap.empty ? "warning" : "error",
      "falls-through",
      `No rule of “${s.name}” holds for ${valuesSaid(s, proof.gap.at)}.`,
      "rules",
      mend,
    );
}

function valuesSaid(s: Apply, at: Example): string {
  const said = at.flatMap((v, i) => {
    if (v === undefined) return [];
    const { formula } = s.inputs[i]!;
    if (v === null) return [`${formula} empty`];
    return [isNum(v) ? `${formula} exactly ${exampleText(v)}` : `${formula} = ${exampleText(v)}`];
  });
  return said.length > 0 ? said.join(", ") : "anything";
}

function parts(s: Apply, say: StepProblems["say"]) {
  for (const [n, i] of s.inputs.entries())
    if (i.formula.trim() === "")
      say("error", "no-formula", `Say what input ${n + 1} looks at, for example a field.`, `input ${i.id}`);
  if (s.outputs.length === 0)
    say("error", "no-outputs", "The table comes to nothing: add an output.", "outputs");
  const names = new Set<string>();
  for (const o of s.outputs) {
    const bad = nameMistake(o.name);
    if (bad !== null) say("error", "bad-name", bad, `output ${o.id}`);
    if (names.has(o.name))
      say("error", "output-twice", `Two outputs are called “${o.name}”.`, `output ${o.id}`);
    names.add(o.name);
    if (s.gathers !== undefined && s.gathers !== "count" && o.kind !== "number")
      say(
        "error",
        "no-number",
        `“${o.name}” is no number, so that its values cannot be counted together.`,
        `output ${o.id}`,
      );
  }
  if (s.gathers !== undefined && s.hits !== "collect")
    say(
      "error",
      "no-gathering",
      "Only where all rules that hold count do they come to a number together.",
      "hits",
    );
  if (s.rules.length === 0) say("error", "no-rules", `“${s.name}” has no rules yet.`, "rules");
  ranked(s, say);
  strays(s, say);
  for (const [n, r] of s.rules.entries()) {
    if (isBlank(r)) {
      const empty = `Rule ${n + 1} is empty: say when it holds, and what it comes to.`;
      say("error", "rule-empty", empty, `rule ${r.id}`);
      continue;
    }
    for (const o of s.outputs) {
      const value = cellOf(r.then, o.id);
      if (!value)
        say(
          s.gathers === undefined || s.gathers === "count" ? "warning" : "error",
          "no-value",
          `Rule ${n + 1} says nothing for “${o.name}”.`,
          `value ${r.id} ${o.id}`,
        );
      const text = textIn(value);
      if (o.kind === "text" && o.values && text !== null && !o.values.includes(text))
        say(
          "error",
          "no-such-value",
          `“${text}” is none of the values of “${o.name}”: ${o.values.join(", ")}.`,
          `value ${r.id} ${o.id}`,
        );
    }
  }
}

/** Cells of columns that are not there, or of one column twice: no screen shows them, and no rule goes by them. */
function strays(s: Apply, say: StepProblems["say"]) {
  const inputs = s.inputs.map((i) => i.id);
  const outputs = s.outputs.map((o) => o.id);
  const stray = (cells: readonly string[], columns: readonly string[]) =>
    cells.find((c, i) => !columns.includes(c) || cells.indexOf(c) < i);
  const tell = (what: string, place: string, column: string | undefined) => {
    if (column !== undefined)
      say(
        "error",
        "stray-cell",
        `${what} says something of a column "${column}" that is not there, or says it twice.`,
        place,
      );
  };
  for (const [n, r] of s.rules.entries()) {
    const tests = r.when.map((c) => c.input);
    const values = r.then.map((c) => c.output);
    tell(`Rule ${n + 1}`, `rule ${r.id}`, stray(tests, inputs) ?? stray(values, outputs));
  }
  const last = (s.otherwise ?? []).map((c) => c.output);
  tell("The row for all others", "rules", stray(last, outputs));
}

function ranked(s: Apply, say: StepProblems["say"]) {
  if (ranks(s.hits) && !s.outputs.some((o) => o.kind === "text" && o.values?.length))
    say(
      "error",
      "no-rank",
      "Of several rules that hold the highest is taken, by the order of an output's values: give one its values.",
      "outputs",
    );
}
