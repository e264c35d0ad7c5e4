import { isEmailAddress, outsideAccount } from "../form";
import { outsiderOf } from "./outsiders";
import type { Outsider } from "./state";
import type { At, Turn } from "./turn";

const MOST_NAME = 200;

/** Where an address comes from: the formula of the address first, then that of the name. */
interface From {
  formulas: readonly { place: string; text: string }[];
  /** They are only written to. */
  writes: boolean;
}

/**
 * Whoever is asked at an address. Somebody who works here is asked as they are, or an address would be a way round "never
 * one's own", covers and their own desk; whoever worked here and has left is nobody, not somebody outside.
 * @throws Unclear where it is no address: left out, somebody who was to be asked would not be, and nobody would know
 */
export function atAddress(turn: Turn, at: At, who: Outsider, { formulas, writes }: From): string | null {
  const email = who.email.trim();
  const [{ place, text }] = formulas as [From["formulas"][number]];
  if (!isEmailAddress(email)) {
    // Who is written to is told so where the letter is sent.
    if (writes) return null;
    const said = email.slice(0, 80);
    throw turn.unfit(at.step, place, text, `“${said}” is no address; one reads like registry@example.org.`);
  }
  const known = turn.facts.personAt(email);
  if (known !== null) return turn.facts.isActive(known) ? known : null;
  if (writes) return null;
  const account = outsideAccount(turn.state.number, email);
  const before = outsiderOf(turn.state, account);
  const name = who.name.replace(/\s+/g, " ").trim().slice(0, MOST_NAME);
  if (before && (before.name !== "" || name === "")) return account;
  const hides = (["email", "name"] as const).filter((_, i) => {
    const f = formulas[i];
    const compiled = f ? turn.formula(at.step, f.place, f.text) : null;
    return compiled !== null && turn.hides(compiled);
  });
  const kept = hides.length > 0 ? { hides } : {};
  turn.raise({ type: "outsider named", account, name, email, ...kept }, null);
  return account;
}
