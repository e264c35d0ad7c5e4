import { DEEPEST_CALL, stepKind, type Kinds, type LiveProcedure } from "../kinds";
import { flatFields, handsBack, walkFields } from "../form";
import { placesOf, proceduresCalled, type ProcessDefinition } from "../route";
import { place, type Problem } from "./problem";

/** What is wrong with a procedure that would be right in a process: what is handed in and back, and who it may ask. */
export function procedureProblems(
  d: ProcessDefinition,
  kinds: Kinds,
  procedures: Readonly<Record<string, LiveProcedure>> | undefined,
  out: Problem[],
) {
  const say = (id: string, code: string, message: string, at = "hand") =>
    out.push({ severity: "error", code, where: place("field", id, at), message });
  for (const s of d.starts)
    out.push({
      severity: "error",
      code: "start-inside",
      where: place("start", s.id),
      message:
        "A procedure begins when a process hands to it; it has no start of its own. Take the start away.",
      mend: { label: "Take it away", edit: { op: "start.remove", id: s.id } },
    });
  const top = new Set(flatFields(d.fields).map((f) => f.id));
  walkFields(d.fields, (f) => {
    if (f.kind === "file")
      return say(
        f.id,
        "file-inside",
        `“${f.name}”: a procedure cannot hold files. Let the process that hands over ask for them.`,
        "kind",
      );
    if (!f.hand) return;
    if (!top.has(f.id))
      return say(f.id, "hand-column", "A column is handed over with its line items, not by itself.");
    if (f.kind === "lines")
      return say(
        f.id,
        "hand-kind",
        `“${f.name}”: line items cannot be handed over. Hand to it once for each of them.`,
      );
    if (f.worked && f.hand !== "out")
      return say(
        f.id,
        "hand-worked",
        `“${f.name}” is worked out, so nobody can hand it in. It can be handed back.`,
      );
    if (handsBack(f) && f.name === "result")
      say(
        f.id,
        "hand-name",
        "“result” is what the procedure ended with; call this one something else.",
        "name",
      );
  });
  if (procedures) roundAbout(d, kinds, procedures, out);
  for (const { step } of placesOf(d, kinds).values())
    for (const a of stepKind(kinds, step).asks?.answers(step) ?? [])
      if (a.returns)
        out.push({
          severity: "error",
          code: "returns-inside",
          where: place("step", step.id, a.id),
          message: `“${a.label}” sends back to whoever asked, who sees the form of the process that hands over, not this one. Let it end with a result, and let that process ask for changes.`,
        });
}

/** Says where procedures hand to each other in a circle: it may be meant, and goes only so deep. */
function roundAbout(
  d: ProcessDefinition,
  kinds: Kinds,
  procedures: Readonly<Record<string, LiveProcedure>>,
  out: Problem[],
) {
  const next = (key: string): readonly string[] =>
    Object.hasOwn(procedures, key) ? procedures[key]!.handsTo : [];
  const way = (from: string, seen: ReadonlySet<string>): string[] | null => {
    if (from === d.key) return [];
    if (seen.has(from)) return null;
    for (const key of next(from)) {
      const rest = way(key, new Set([...seen, from]));
      if (rest) return [Object.hasOwn(procedures, from) ? procedures[from]!.name : from, ...rest];
    }
    return null;
  };
  for (const { procedure, step } of proceduresCalled(d, kinds)) {
    const round = way(procedure, new Set());
    if (!round) continue;
    const names = [d.name, ...round, d.name].map((n) => `“${n}”`).join(" → ");
    out.push({
      severity: "warning",
      code: "circle",
      where: place("step", step, "procedure"),
      message: `Handing over comes back here: ${names}. Make sure that it ends; ${DEEPEST_CALL} deep it is stopped.`,
    });
  }
}
