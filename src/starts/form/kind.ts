import type { StartBehaviour } from "@/core/kinds";

/** Somebody signed in fills in the form and sends it. */
export const form: StartBehaviour<"form"> = {
  says: "somebody fills in the form",
  offer: "somebody fill in the form",
  several: false,
  blank: (id) => ({ id, kind: "form", who: { by: "everybody" } }),
  mayStart(s, asker) {
    switch (s.who.by) {
      case "everybody":
        return true;
      case "group":
        return asker.groups.includes(s.who.group);
      case "department":
        return asker.department === s.who.department;
    }
  },
  formulas: (s) => s,
  problems(s, { groups, say }) {
    if (s.who.by === "group" && groups && !groups[s.who.group]?.length)
      say("error", "empty-group", `The group "${s.who.group}", which may ask, has nobody in it.`, "who");
  },
  words(s) {
    switch (s.who.by) {
      case "everybody":
        return "anybody fills in the form and sends it";
      case "group":
        return `group ${s.who.group} fills in the form and sends it`;
      case "department":
        return `${s.who.department} fills in the form and sends it`;
    }
  },
};
