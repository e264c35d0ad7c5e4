import { YESNO } from "@/core/expression";
import { findField } from "@/core/form";
import type { StartBehaviour } from "@/core/kinds";

/** A mail comes. */
export const mail: StartBehaviour<"mail"> = {
  says: "a mail comes",
  offer: "a mail start it",
  several: true,
  blank: (id) => ({ id, kind: "mail", strangers: "take", values: [] }),
  mayStart: () => false,
  formulas: (s, walk) => ({
    ...s,
    ...(s.when === undefined
      ? {}
      : {
          when: walk.formula(
            { place: "when", says: "what must hold of the mail", wants: YESNO, reads: "mail" },
            s.when,
          ),
        }),
    values: s.values.map((v) => ({
      ...v,
      value: walk.formula(
        {
          place: `value ${v.field}`,
          says: "what a field begins with",
          wants: { field: v.field },
          reads: "mail",
        },
        v.value,
      ),
    })),
  }),
  problems(s, { definition, say }) {
    if (!definition.mailbox)
      say(
        "error",
        "no-mailbox",
        "A mail is to start it, and the process has no mailbox. Choose one under About.",
        "mail",
      );
    if (s.strangers === "refuse" && !s.refusal?.trim())
      say("error", "no-refusal", "Strangers are refused with a letter: say what it says.", "strangers");
    for (const { field, value } of s.values) {
      const f = findField(definition.fields, field)?.field;
      const at = `value ${field}`;
      if (!f) say("error", "no-field", "A field it fills in is not in the form any more.", at);
      else if (f.worked)
        say("error", "worked-out", `“${f.name}” is worked out; nothing else fills it in.`, at);
      if (!value.trim()) say("error", "no-value", `Say what “${f?.name ?? field}” begins with.`, at);
    }
  },
  words: (s) => `a mail comes${s.when ? `, and ${s.when}` : ""}`,
  ofMail: (s) => ({
    when: s.when ?? null,
    strangers: s.strangers,
    refusal: s.refusal ?? "",
    values: s.values,
  }),
};
