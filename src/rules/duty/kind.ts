import { TEXT } from "@/core/expression";
import { nameOf, type RuleBehaviour } from "@/core/kinds";

const NOWHERE = "";

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
    if (!r.place) return turn.dutyHolders(r.duty, null);
    const at = turn.value("place", r.place);
    // For no place is not for any place: then only those who hold it everywhere are meant.
    return turn.dutyHolders(r.duty, (typeof at === "string" ? at : nameOf(at)) ?? NOWHERE);
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
