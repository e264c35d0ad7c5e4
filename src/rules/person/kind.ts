import type { RuleBehaviour } from "@/core/kinds";

/** One person, by name. */
export const person: RuleBehaviour<"person"> = {
  says: "one person",
  blank: () => ({ by: "person", person: "" }),
  empty: (r) => !r.person,
  formulas: (r) => r,
  people: (r) => [r.person],
  problems(r, { office, say }) {
    if (!office.people.some((p) => p.id === r.person))
      say("error", "no-person", `Nobody here is "${r.person}".`);
  },
  words: (r, names) => (r.person ? names.person(r.person) : "nobody yet"),
};
