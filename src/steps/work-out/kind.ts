import { flatFields } from "@/core/form";
import type { StepBehaviour } from "@/core/kinds";

/** Sets values of the form. */
export const workOut: StepBehaviour<"work out"> = {
  verb: "Work out",
  says: "set values of the form",
  blank: (id) => ({ id, name: "Work out", kind: "work out", set: [] }),
  lists: null,
  asks: null,
  formulas: (s, walk) => ({
    ...s,
    set: s.set.map((v) => ({
      ...v,
      value: walk.formula(
        { place: `set ${v.field}`, says: "what the field is set to", wants: { field: v.field } },
        v.value,
      ),
    })),
  }),
  steps: (s) => s,
  sets: (s) => s.set.map((v) => v.field),
  problems(s, { definition, say }) {
    const fields = new Set(flatFields(definition.fields).map((f) => f.id));
    for (const v of s.set)
      if (!fields.has(v.field)) say("error", "no-field", `There is no field "${v.field}".`, "set");
    const worked = new Map(flatFields(definition.fields).flatMap((f) => (f.worked ? [[f.id, f.name]] : [])));
    for (const v of s.set)
      if (worked.has(v.field))
        say(
          "error",
          "sets-worked",
          `"${worked.get(v.field)}" is worked out by the form; what is set here would be lost.`,
          "set",
        );
    if (new Set(s.set.map((v) => v.field)).size < s.set.length)
      say("error", "sets-twice", "One field is set twice here.", "set");
    if (s.set.length === 0) say("warning", "sets-nothing", "This step sets nothing yet.");
  },
  exit: () => null,
  goesOn: () => true,
  passes: true,
  enter(turn, s) {
    turn.set(
      Object.fromEntries(s.set.map((v) => [v.field, turn.valueForField(`set ${v.field}`, v.value, v.field)])),
    );
    return { go: "on" };
  },
};
