import { audienceWords, mayBegin, sayEmptyAudience, type StartBehaviour } from "@/core/kinds";

/** Somebody signed in fills in the form and sends it. */
export const form: StartBehaviour<"form"> = {
  says: "somebody fills in the form",
  offer: "somebody fill in the form",
  several: false,
  blank: (id) => ({ id, kind: "form", who: { by: "everybody" } }),
  mayStart: (s, asker) => mayBegin(s.who, asker),
  formulas: (s) => s,
  problems: (s, { groups, say }) => sayEmptyAudience(s.who, groups, say),
  words: (s) => `${audienceWords(s.who)} fills in the form and sends it`,
};
