import { stepKind, type Kinds } from "../kinds";
import { walkFields } from "../form";
import { placesOf, type ProcessDefinition } from "../route";
import { place, type Problem } from "./problem";

/** What is wrong with a procedure that would be right in a process: starts, files that go with it, and whom it may ask. */
export function procedureProblems(d: ProcessDefinition, kinds: Kinds, out: Problem[]) {
  for (const s of d.starts)
    out.push({
      severity: "error",
      code: "start-inside",
      where: place("start", s.id),
      message:
        "A procedure begins when a process hands to it; it has no start of its own. Take the start away.",
      mend: { label: "Take it away", edit: { op: "start.remove", id: s.id } },
    });
  walkFields(d.fields, (f, parents) => {
    if (kinds.fields[f.kind].idOf === "file" && ![...parents, f].some((p) => p.hand))
      out.push({
        severity: "warning",
        code: "file-inside",
        where: place("field", f.id, "kind"),
        message: `“${f.name}” is not handed back: when the procedure has ended, nobody can open it any more.`,
      });
  });
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
