import { Entity, isContext, isList, type Value } from "../expression";

/** Whom something is sent to: somebody who works here, or an address. */
export type Receiver = { person: string } | { name: string; email: string };

const keyOf = (r: Receiver): string =>
  "person" in r ? `p ${r.person}` : `a ${r.email.trim().toLowerCase()}`;

/** Each once, in their order. */
export const distinctReceivers = (of: readonly Receiver[]): Receiver[] =>
  [...new Map([...of].reverse().map((r) => [keyOf(r), r])).values()].reverse();

/**
 * Whom a value means: people, addresses as text, whatever has an `email` (the requester), and lists of all that. What is
 * no address stays one, so that it is told that nothing could be sent there. Empty is nobody.
 */
export function receiversIn(v: Value): Receiver[] {
  if (v === null) return [];
  if (isList(v)) return v.flatMap(receiversIn);
  if (v instanceof Entity && v.of === "person") return [{ person: v.id }];
  if (typeof v === "string") return v.trim() === "" ? [] : [{ name: "", email: v.trim() }];
  if (isContext(v)) {
    const [email, name] = [v.get("email"), v.get("name")];
    if (typeof email === "string" && email.trim() !== "")
      return [{ name: typeof name === "string" ? name : "", email: email.trim() }];
  }
  return [];
}
