import { emailKey, followerOf, type Party } from "@/core/form";
import type { Receiver } from "@/core/kinds";
import type { Actor } from "../kernel/actor";
import type { Directory } from "../kernel/directory";

/** Whoever reads letters: by their account, and by the address they are known by. */
export interface LetterReader {
  id: string;
  /** As `emailKey` has it; empty for none. */
  address: string;
  /** They follow a request of theirs from outside. */
  outside: boolean;
}

/** Whoever acts, as one who reads the letters of a request. @param asker who asked for it */
export function letterReader(
  d: Directory,
  { kind, id }: Pick<Actor, "kind" | "id">,
  asker: Party,
): LetterReader {
  const outside = kind === "visitor";
  if (!outside) return { id, address: emailKey(d.people.get(id)?.email ?? ""), outside };
  const follows = followerOf(asker) === id && asker.kind === "outside";
  return { id, address: follows ? emailKey(asker.email) : "", outside };
}

/** Whether one of a letter is somebody, by their account or their address. */
export const isReader = (r: Receiver, { id, address }: Pick<LetterReader, "id" | "address">): boolean =>
  "person" in r ? r.person === id : address !== "" && emailKey(r.email) === address;
