import { ANY, listOf, PERSON } from "@/core/expression";
import { idsOf, receiversIn, type RuleBehaviour } from "@/core/kinds";

/** Whoever a formula comes to: a person field, a column of a record, a list of people. */
export const formula: RuleBehaviour<"formula"> = {
  says: "a person in the form or a record",
  blank: () => ({ by: "formula", formula: "" }),
  empty: (r) => !r.formula,
  formulas: (r, place, says, walk, reach) => ({
    ...r,
    formula: walk.formula({ place, says, wants: reach ? ANY : listOf(PERSON) }, r.formula),
  }),
  people: (r, turn) => idsOf(turn.value("", r.formula)),
  outside: (r, turn) => receiversIn(turn.value("", r.formula)).flatMap((x) => ("email" in x ? [x] : [])),
  problems: () => undefined,
  // "Store.Keeper" reads as "Store’s Keeper".
  words: (r) => r.formula.replace(/\.([^.]+)$/, (_, c: string) => `’s ${c}`) || "nobody yet",
};
