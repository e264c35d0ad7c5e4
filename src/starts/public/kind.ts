import { labelOf, openAccess, registersOf, walkFields } from "@/core/form";
import { mapSent, sentProblems, type StartBehaviour } from "@/core/kinds";
import { accessAt, START } from "@/core/route";

/** Somebody sends the form without signing in. */
export const publicForm: StartBehaviour<"public"> = {
  says: "somebody outside sends the public form",
  offer: "people outside send a public form",
  several: false,
  blank: (id) => ({ id, kind: "public", letterhead: "", asks: "address", values: true }),
  // Whoever is signed in asks by the form of the office, or comes to the page like anybody.
  mayStart: () => false,
  formulas: (s, walk) => (s.sent ? { ...s, sent: mapSent(s.sent, walk) } : s),
  problems(s, { definition, kinds, opened, say }) {
    if (!s.letterhead.trim())
      say("error", "no-letterhead", "Say whose form it is, for example: Quillhaven Museums.", "letterhead");
    if (s.asks === "confirmed" && !definition.mailbox)
      say(
        "error",
        "no-mailbox",
        "Addresses are confirmed by a code, and the process has no mailbox to send it from. Choose one under About.",
        "asks",
      );
    else if (s.asks === "address" && !definition.mailbox)
      say(
        "warning",
        "no-mailbox",
        "The process has no mailbox: whoever sends the form gets no letter, and has only the link they are shown then.",
        "asks",
      );
    const access = accessAt(definition, START);
    const open = openAccess(definition.fields, access, kinds, s);
    walkFields(definition.fields, (f) => {
      if (f.needed === undefined || f.worked || access(f.id) !== "edit" || open(f.id) === "edit") return;
      say(
        "error",
        "not-outside",
        `“${labelOf(f)}” is needed, and nobody outside can fill it in: ${kinds[f.kind].idOf === "file" ? "files are not taken" : "it asks for what only people here can choose"}. Hide it at the start, or do not need it.`,
        "asks",
      );
    });
    walkFields(definition.fields, (f) => {
      const of = open(f.id) === "edit" && !f.worked ? registersOf(f, kinds) : [];
      if (opened !== null && of.length > 0 && of.every((key) => !opened.includes(key)))
        say(
          "warning",
          "nothing-open",
          `“${labelOf(f)}” is looked up where nothing is open to people outside: they find nothing to choose. Whoever looks after ${of.join(", ")} opens columns under “Who may see it”.`,
          "asks",
        );
    });
    if (s.sent) sentProblems(s.sent, say);
  },
  words: (s) =>
    `somebody outside sends the public form${s.asks === "confirmed" ? ", once their address is confirmed" : ""}`,
  afterSending: (s) => s.sent ?? null,
  opens: (s) => ({
    letterhead: s.letterhead,
    greeting: s.greeting ?? "",
    asks: s.asks,
    files: s.files === true,
    staff: s.staff === true,
    values: s.values === true,
  }),
};
