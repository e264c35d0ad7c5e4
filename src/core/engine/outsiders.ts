import { partyValue } from "../form";
import type { EngineFacts } from "./facts";
import type { Outsider, RequestState } from "./state";

type Known = Pick<RequestState, "outsiders">;

/** Somebody outside by their account; null for everybody else. */
export const outsiderOf = ({ outsiders }: Known, account: string): Outsider | null =>
  outsiders && Object.hasOwn(outsiders, account) ? outsiders[account]! : null;

/** Somebody outside as everybody who sees the request may know them. */
const known = ({ name, email, hides = [] }: Outsider): { name: string; email: string } => ({
  name: hides.includes("name") ? "" : name,
  email: hides.includes("email") ? "" : email,
});

/** How they are called to everybody who sees it. */
export function outsiderName(o: Outsider): string {
  const { name, email } = known(o);
  return name || email || "Somebody outside";
}

/** What is known of people, with those outside whom the request asks: they can be asked, and are nobody of the office. */
export function knowing(
  facts: EngineFacts,
  state: () => Known,
): Pick<EngineFacts, "isActive" | "emailOf" | "person"> {
  const of = (id: string) => outsiderOf(state(), id);
  return {
    isActive: (id) => of(id) !== null || facts.isActive(id),
    emailOf: (id) => of(id)?.email ?? facts.emailOf(id),
    person(id) {
      const who = of(id);
      if (!who) return facts.person(id);
      const { email } = known(who);
      const party = { kind: "outside", name: outsiderName(who), email, through: null } as const;
      return partyValue(party, (p) => facts.person(p));
    },
  };
}
