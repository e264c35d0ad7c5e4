import { afterSending, Turn, type Sent } from "@/core/engine";
import { accountOf, factsSeen } from "@/core/form";
import { defineUseCase } from "../kernel/defineUseCase";
import type { Offered } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { registersSeen } from "../kernel/registersSeen";
import { engineFacts } from "../requests/facts";
import { loadRequest } from "../requests/loadRequest";
import { openOf } from "../outside/visitor";
import { readerOf } from "../requests/requestView";

/** What whoever sent a form sees then. */
export interface SentPage {
  number: string;
  title: string;
  process: string;
  says: string;
  /** Where they may go on: a form they may fill in, or a page on the web. */
  leads: { name: string; href: string; outside: boolean } | null;
}

/** For whoever asked alone: others have their request's page. */
export const sentPage = defineUseCase(
  ["see request", "ask", "ask from outside"],
  async (c, number: string): Promise<SentPage> => {
    const loaded = await loadRequest(c, { number });
    const { d, row, release, access, now } = loaded;
    if (accountOf(row.state.requester) !== c.actor.id)
      throw new Failed({ code: "not-found", data: { what: "request", id: number } });
    const seen = registersSeen(d, c.actor);
    const facts = factsSeen(await readerOf(loaded).load([], row.state.data), d.registers, seen);
    const turn = new Turn(release, row.state, engineFacts(d, facts, now, c.actor.zone), null);
    const sent = afterSending(turn, access);
    const form = sent?.leads?.to === "form" ? sent.leads.process : null;
    // A form they may not fill in is none to go on with.
    const outside = c.actor.kind === "visitor";
    const fills = (o: Offered): boolean =>
      outside
        ? c.may({ action: "ask from outside", open: openOf(o.starts) !== null })
        : c.may({ action: "ask", starts: o.starts, live: true });
    const offer = d.offered.find((o) => o.process === form && fills(o));
    return {
      number,
      title: row.title,
      process: release.definition.name,
      says: sent?.says ?? "",
      leads: sent ? leadsOn(sent, offer?.name ?? null, outside ? "open" : "ask") : null,
    };
  },
);

function leadsOn({ leads }: Sent, form: string | null, area: "ask" | "open"): SentPage["leads"] {
  if (!leads) return null;
  if (leads.to === "address") {
    const at = URL.canParse(leads.href) ? new URL(leads.href) : null;
    // What its owner wrote was looked at before it was released; what a value made of it is looked at here.
    if (!at || !["http:", "https:"].includes(at.protocol)) return null;
    return { name: at.host, href: at.href, outside: true };
  }
  if (form === null) return null;
  const values = new URLSearchParams(leads.values).toString();
  return {
    name: form,
    href: `/${area}/${encodeURIComponent(leads.process)}${values && `?${values}`}`,
    outside: false,
  };
}
