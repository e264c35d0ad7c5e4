import { isEmailAddress, type Party } from "@/core/form";
import type { Call } from "../kernel/defineUseCase";
import type { Loaded } from "../requests/loadRequest";
import type { MailShown } from "./conversation";

/** What somebody may write in a request: which letters there are for it, and to whom was written before. */
export interface MayWrite {
  letters: { id: string; name: string }[];
  to: { name: string; email: string }[];
  /** It goes out by mail; else it is read on the page of the request alone. */
  mailed: boolean;
}

/** Whether somebody may write letters in a request, as an owner or because it waits for them; null where not. */
export function mayWrite(
  c: Call,
  { owner, release, d }: Pick<Loaded, "owner" | "release" | "d">,
  holds: boolean,
  asker: Party,
  letters: readonly MailShown[],
): MayWrite | null {
  if (!c.may({ action: "write letter", owner, holds })) return null;
  const mailed = Boolean(release.definition.mailbox);
  const asked = asker.kind === "outside" ? asker : d.people.get(asker.kind === "person" ? asker.id : "");
  const others = mailed ? letters.flatMap((l) => l.outside) : [];
  const known = [...(asked && (mailed || asker.kind === "person") ? [asked] : []), ...others].filter(
    (r) => !("id" in r) || r.id !== c.actor.id,
  );
  if (!mailed && known.length === 0) return null;
  const to = known
    .filter((r) => isEmailAddress(r.email))
    .map(({ name, email }) => [email, { name, email }] as const);
  return {
    letters: (release.definition.letters ?? []).flatMap((l) =>
      l.byHand ? [{ id: l.id, name: l.name }] : [],
    ),
    to: [...new Map(to).values()],
    mailed,
  };
}
