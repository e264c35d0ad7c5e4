import { partyValue } from "../form";
import type { EngineFacts } from "./facts";
import type { Outsider, RequestState } from "./state";

type Known = Pick<RequestState, "outsiders">;

/** Somebody outside by their account; null for everybody else. */
export const outsiderOf = ({ outsiders }: Known, account: string): Outsider | null =>
  outsiders && Object.hasOwn(outsiders, account) ? outsiders[account]! : null;

/** How somebody outside is called to everybody who sees the request. */
export const outsiderName = ({ name, email, hidden }: Outsider): string =>
  (hidden ? "" : name || email) || "Somebody outside";

/** What is known of people, with those outside whom the request asks: they can be asked, and are nobody of the office. */
export function knowing(
  facts: EngineFacts,
  known: () => Known,
): Pick<EngineFacts, "isActive" | "emailOf" | "person"> {
  const of = (id: string) => outsiderOf(known(), id);
  return {
    isActive: (id) => of(id) !== null || facts.isActive(id),
    emailOf: (id) => of(id)?.email ?? facts.emailOf(id),
    person(id) {
      const who = of(id);
      if (!who) return facts.person(id);
      const email = who.hidden ? "" : who.email;
      const party = { kind: "outside", name: outsiderName(who), email, through: null } as const;
      return partyValue(party, (p) => facts.person(p));
    },
  };
}
