import type { RuleBehaviour } from "@/core/kinds";
import type { RuleParts } from "../shapes";

const namedBy = (r: RuleParts["person"]): string[] => [r.person, ...(r.others ?? [])];

/** People, by name. */
export const person: RuleBehaviour<"person"> = {
  says: "people by name",
  blank: () => ({ by: "person", person: "" }),
  empty: (r) => namedBy(r).includes(""),
  formulas: (r) => r,
  people: (r) => namedBy(r),
  problems(r, { office, say }) {
    for (const id of namedBy(r))
      if (!office.people.some((p) => p.id === id)) say("error", "no-person", `Nobody here is "${id}".`);
  },
  words: (r, names) => (r.person ? namedBy(r).map(names.person).join(", ") : "nobody yet"),
};
