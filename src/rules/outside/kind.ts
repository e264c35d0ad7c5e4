import { ANY } from "@/core/expression";
import { receiversIn, type Receiver, type RuleBehaviour, type RuleTurn } from "@/core/kinds";
import type { RuleParts } from "../shapes";

/** A name goes with one address; of several each has its own, or none. */
function meantBy(r: RuleParts["outside"], turn: RuleTurn): Receiver[] {
  const meant = receiversIn(turn.value("", r.to));
  const name = r.name === undefined || meant.length !== 1 ? null : turn.value("name", r.name);
  return meant.map((m) => ("email" in m && typeof name === "string" && name.trim() ? { ...m, name } : m));
}

/** Whoever has an address, who need not work here: they answer by a link in the letter that asks them. */
export const outside: RuleBehaviour<"outside"> = {
  says: "whoever has an e-mail address",
  blank: () => ({ by: "outside", to: "" }),
  empty: (r) => !r.to.trim(),
  formulas: (r, place, says, walk) => ({
    ...r,
    to: walk.formula({ place, says, wants: ANY }, r.to),
    ...(r.name === undefined
      ? {}
      : {
          name: walk.formula(
            { place: `${place} name`, says: `how they are called, ${says}`, wants: ANY },
            r.name,
          ),
        }),
  }),
  people(r, turn) {
    const name = r.name === undefined ? [] : [{ part: "name", text: r.name }];
    const from = [{ part: "", text: r.to }, ...name];
    return meantBy(r, turn).flatMap((m) => ("person" in m ? [m.person] : (turn.atAddress(m, from) ?? [])));
  },
  outside: (r, turn) => meantBy(r, turn).flatMap((m) => ("email" in m ? [m] : [])),
  problems(r, { mailbox, say }) {
    if (!r.to.trim())
      say(
        "error",
        "no-address",
        'Say at which address, for example: Borrower email, or "desk@hollins.example".',
      );
    if (!mailbox)
      say(
        "error",
        "no-mailbox",
        "Whoever does not work here answers by a link in a letter, and the process has no mailbox to write from. Choose one under About.",
      );
  },
  words: (r) => (r.to.trim() ? `whoever has the address ${r.to.trim()}` : "nobody yet"),
};
