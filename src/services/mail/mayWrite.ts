import { isEmailAddress, type Party } from "@/core/form";
import type { Call } from "../kernel/defineUseCase";
import type { Loaded } from "../requests/loadRequest";
import type { MailShown } from "./conversation";

/** What somebody may write in a request: which letters there are for it, and to whom was written before. */
export interface MayWrite {
  letters: { id: string; name: string }[];
  to: { name: string; email: string }[];
}

/** Whether somebody may write letters in a request, as an owner or because it waits for them; null where not. */
export function mayWrite(
  c: Call,
  { owner, release }: Pick<Loaded, "owner" | "release">,
  holds: boolean,
  asker: Party,
  letters: readonly MailShown[],
): MayWrite | null {
  if (!c.may({ action: "write letter", owner, holds }) || !release.definition.mailbox) return null;
  const known = [...(asker.kind === "outside" ? [asker] : []), ...letters.flatMap((l) => l.outside)];
  const to = known
    .filter((r) => isEmailAddress(r.email))
    .map(({ name, email }) => [email, { name, email }] as const);
  return {
    letters: (release.definition.letters ?? []).flatMap((l) =>
      l.byHand ? [{ id: l.id, name: l.name }] : [],
    ),
    to: [...new Map(to).values()],
  };
}
