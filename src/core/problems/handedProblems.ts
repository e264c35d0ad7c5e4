import { DEEPEST_CALL, type Kinds, type LiveProcedure } from "../kinds";
import { flatFields, handsBack, takesIn, walkFields, type Field } from "../form";
import { handsOver, type ProcessDefinition } from "../route";
import { place, type Problem } from "./problem";

/** Names that are read of a request or procedure itself, by the step that handed to it. */
const OWN_NAMES: Readonly<Record<string, string>> = { result: "what it ended with", number: "its number" };

/** What is wrong with what others hand in, and read afterwards, of a procedure or a process they start. */
export function handedProblems(d: ProcessDefinition, kinds: Kinds, out: Problem[]) {
  const say = (id: string, code: string, message: string, at = "hand") =>
    out.push({ severity: "error", code, where: place("field", id, at), message });
  const top = new Set(flatFields(d.fields).map((f) => f.id));
  walkFields(d.fields, (f) => {
    // A process is begun by filling in its form; a procedure by what is handed over.
    const begins = d.procedure ? takesIn(f) : top.has(f.id);
    if (f.starting && (!begins || f.worked || f.kind === "lines"))
      say(
        f.id,
        "starting-unused",
        `What “${f.name}” begins with is never asked for: ${neverBegins(d, f)} Take it out.`,
        "starting",
      );
    if (!f.hand) return;
    if (!top.has(f.id))
      return say(f.id, "hand-column", "A column is handed over with its line items, not by itself.");
    if (holdsFiles(f, kinds) && handsBack(f) && !d.procedure)
      return say(
        f.id,
        "hand-kind",
        `“${f.name}”: a file of one request cannot be handed back to another. It can be handed in.`,
      );
    if (f.worked && f.hand !== "out")
      return say(
        f.id,
        "hand-worked",
        `“${f.name}” is worked out, so nobody can hand it in. It can be handed back.`,
      );
    const own = Object.hasOwn(OWN_NAMES, f.name) ? OWN_NAMES[f.name] : undefined;
    if (handsBack(f) && own && !(d.procedure && f.name === "number"))
      say(f.id, "hand-name", `“${f.name}” is ${own}; call this one something else.`, "name");
  });
}

function neverBegins(d: ProcessDefinition, f: Field): string {
  if (f.worked) return "it is worked out.";
  if (f.kind === "lines") return "line items begin with no line.";
  return d.procedure ? "nobody hands it in." : "it is a column, and lines begin empty.";
}

const holdsFiles = (f: Field, kinds: Kinds): boolean =>
  [f, ...flatFields(f.fields ?? [])].some((x) => kinds.fields[x.kind].idOf === "file");

/** Says where handing over comes back in a circle: it may be meant, and goes only so deep. */
export function circleProblems(
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
  for (const { to, step } of handsOver(d, kinds)) {
    const round = way(to, new Set());
    if (!round) continue;
    const names = [d.name, ...round, d.name].map((n) => `“${n}”`).join(" → ");
    out.push({
      severity: "warning",
      code: "circle",
      where: place("step", step),
      message: `Handing over comes back here: ${names}. Make sure that it ends; ${DEEPEST_CALL} deep it is stopped.`,
    });
  }
}
