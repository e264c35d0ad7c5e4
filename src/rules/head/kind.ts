import { ANY } from "@/core/expression";
import { idsOf, nameOf, type RuleBehaviour, type RuleTurn } from "@/core/kinds";
import { isContext, type Value } from "@/core/expression";
import { HEAD } from "../shapes";

/** Which department is meant: one by its name, or that of a person. */
function departmentOf(v: Value, turn: RuleTurn): string {
  if (typeof v === "string") return v;
  const [person] = idsOf(v);
  // A thing that is no person may be called like a department: a site, or a row of them.
  const own = person === undefined ? "" : turn.departmentOf(person);
  return own || (isContext(v) ? (nameOf(v) ?? "") : "");
}

/** Whoever heads a department, which is a duty held for it. */
export const head: RuleBehaviour<"head"> = {
  says: "the head of a department",
  blank: () => ({ by: "head" }),
  empty: () => false,
  formulas(r, place, says, walk) {
    if (r.of === undefined) return r;
    const spot = { place: `${place} of`, says: `of whose department, or of which, ${says}`, wants: ANY };
    return { ...r, of: walk.formula(spot, r.of) };
  },
  people(r, turn) {
    const asker = turn.holder ?? turn.requester;
    const own = asker === null ? "" : turn.departmentOf(asker);
    const department = r.of ? departmentOf(turn.value("of", r.of), turn) : own;
    // Of no department there is no head, nor one of all.
    return department === "" ? [] : turn.dutyHolders(HEAD, department);
  },
  problems(_, { office, say }) {
    if (!office.duties[HEAD])
      say(
        "error",
        "no-holder",
        `Nobody holds the duty "${HEAD}". Office gives it, department by department.`,
      );
  },
  words(r, { inRung }) {
    const of = inRung && !r.of ? "whoever has it" : (r.of ?? "Requester");
    return `head of the department of ${of}`;
  },
};
