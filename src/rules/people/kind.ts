import { YESNO } from "@/core/expression";
import { PEOPLE } from "@/core/form";
import type { RuleBehaviour } from "@/core/kinds";

/** Everybody here for whom a condition over what is known of people holds. */
export const people: RuleBehaviour<"people"> = {
  says: "everybody for whom a condition holds",
  blank: () => ({ by: "people", where: "" }),
  empty: (r) => !r.where.trim(),
  formulas: (r, place, says, walk) => ({
    ...r,
    where: walk.formula(
      {
        place: `${place} where`,
        says: `for whom it holds, ${says}`,
        wants: YESNO,
        reads: { columnsOf: PEOPLE },
      },
      r.where,
    ),
  }),
  // Without a condition nobody is meant yet, and never everybody.
  people: (r, turn) => (r.where.trim() ? turn.peopleMeeting("where", r.where) : []),
  problems(r, { say }) {
    if (!r.where.trim())
      say("error", "no-condition", 'Say for whom it holds, for example: Department = "Finance".');
  },
  words: (r) => (r.where.trim() ? `everybody with ${r.where.trim()}` : "nobody yet"),
};
