import type { RuleBehaviour } from "@/core/kinds";

/** The members of a group. */
export const group: RuleBehaviour<"group"> = {
  says: "a group",
  blank: () => ({ by: "group", group: "" }),
  empty: (r) => !r.group,
  formulas: (r) => r,
  people: (r, turn) => turn.membersOf(r.group),
  problems(r, { office, say }) {
    if (!office.groups[r.group]?.length)
      say("error", "empty-group", `The group "${r.group}" has nobody in it.`);
  },
  words: (r) => (r.group ? `group ${r.group}` : "nobody yet"),
};
