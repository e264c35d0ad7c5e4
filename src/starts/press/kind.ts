import {
  audienceWords,
  fillsProblems,
  formulasOverRecord,
  mayBegin,
  sayEmptyAudience,
  sayNoRegister,
  type StartBehaviour,
} from "@/core/kinds";
import { flatFields } from "@/core/form";
import type { PressStart } from "./shape";

const fillsOf = ({ register, into, values }: PressStart) => ({ register, into: into ?? null, values });

/** Somebody presses what the page of a record offers. */
export const press: StartBehaviour<"press"> = {
  says: "somebody presses it on a record",
  offer: "somebody start it from a record",
  several: true,
  blank: (id) => ({ id, kind: "press", who: { by: "everybody" }, register: "", says: "", values: [] }),
  // Through the form alone there is no record it would be about.
  mayStart: () => false,
  mayPress: (s, asker) => mayBegin(s.who, asker),
  formulas: (s, walk) => formulasOverRecord(s, walk, { recordOf: s.register }),
  problems(s, { registers, definition, groups, say }) {
    sayNoRegister(s.register, registers, "Say on the records of which register it is offered.", say);
    if (!s.says.trim())
      say("error", "no-words", "Say what is to be pressed, e.g. “Begin a condition check”.", "says");
    sayEmptyAudience(s.who, groups, say);
    fillsProblems(fillsOf(s), definition.fields, say);
    const filled = [...(s.into === undefined ? [] : [s.into]), ...s.values.map((v) => v.field)];
    for (const f of s.atOnce ? flatFields(definition.fields) : [])
      if (f.needed === "true" && !f.worked && !filled.includes(f.id))
        say(
          "warning",
          "at-once-needs",
          `It begins at once, but “${f.name}” is needed and nothing fills it in. Fill it in, or let the form be opened.`,
          "atOnce",
        );
  },
  words(s) {
    const which = s.when ? ` where ${s.when}` : "";
    return `${audienceWords(s.who)} presses “${s.says}” on a record of ${s.register || "a register"}${which}`;
  },
  ofPress: (s) => ({
    register: s.register,
    says: s.says,
    when: s.when ?? null,
    atOnce: s.atOnce === true,
  }),
  fills: fillsOf,
};
