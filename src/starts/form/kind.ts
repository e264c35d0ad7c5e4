import {
  audienceWords,
  mapSent,
  mayBegin,
  sayEmptyAudience,
  sentProblems,
  type StartBehaviour,
} from "@/core/kinds";

/** Somebody signed in fills in the form and sends it. */
export const form: StartBehaviour<"form"> = {
  says: "somebody fills in the form",
  offer: "somebody fill in the form",
  several: false,
  blank: (id) => ({ id, kind: "form", who: { by: "everybody" } }),
  mayStart: (s, asker) => mayBegin(s.who, asker),
  formulas: (s, walk) => (s.sent ? { ...s, sent: mapSent(s.sent, walk) } : s),
  problems(s, { groups, say }) {
    sayEmptyAudience(s.who, groups, say);
    if (s.sent) sentProblems(s.sent, say);
  },
  words: (s) => `${audienceWords(s.who)} fills in the form and sends it`,
  afterSending: (s) => s.sent ?? null,
};
