import { TEXT } from "@/core/expression";
import { nameOf, type RuleBehaviour } from "@/core/kinds";

/** Whoever holds a duty, for a site or department. */
export const duty: RuleBehaviour<"duty"> = {
  says: "who holds a duty",
  blank: () => ({ by: "duty", duty: "" }),
  empty: (r) => !r.duty,
  formulas(r, place, says, walk) {
    if (r.place === undefined) return r;
    const spot = { place: `${place} place`, says: `for which site or department, ${says}`, wants: TEXT };
    return { ...r, place: walk.formula(spot, r.place) };
  },
  people(r, turn) {
    const at = r.place ? turn.value("place", r.place) : null;
    return turn.dutyHolders(r.duty, typeof at === "string" ? at : nameOf(at));
  },
  problems(r, { office, say }) {
    if (!r.duty) say("error", "no-holder", "Choose the duty of whoever is to be asked.");
    else if (!office.duties[r.duty]) say("error", "no-holder", `Nobody holds the duty "${r.duty}".`);
  },
  words(r) {
    if (!r.duty) return "nobody yet";
    return r.place ? `${r.duty} for ${r.place}` : r.duty;
  },
};
