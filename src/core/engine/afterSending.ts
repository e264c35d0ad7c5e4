import { isList, templateParts, valueText, type Value } from "../expression";
import { fieldsRead, followerOf, walkFields, type AccessOf, type AfterSending } from "../form";
import { startKind } from "../kinds";
import type { CompiledRelease } from "./release";
import type { Turn } from "./turn";

/** What whoever sent a form reads and where they may go on, with the values of their request. */
export interface Sent {
  says: string;
  leads:
    | { to: "form"; process: string; values: [name: string, text: string][] }
    | { to: "address"; href: string }
    | null;
}

/**
 * What a process says of its form being sent; null where it says nothing.
 * @param outside of the form it opens to people outside, and not of that of the office
 */
export function sentOf(
  { definition, kinds }: Pick<CompiledRelease, "definition" | "kinds">,
  outside: boolean,
): { start: string; sent: AfterSending } | null {
  for (const s of definition.starts) {
    const kind = startKind(kinds, s);
    const sent = (kind.opens !== undefined) === outside ? kind.afterSending?.(s) : null;
    if (sent && (sent.says?.trim() || sent.leads)) return { start: s.id, sent };
  }
  return null;
}

/** In the place of what whoever reads it may not see. */
const HIDDEN = "…";

/** A value as a link says it, and a form reads it: a date, a number, a name, and not as it stands in a sentence. */
function handedOn(v: Value): string {
  if (v === null) return "";
  if (typeof v === "boolean") return v ? "yes" : "no";
  return isList(v) ? v.map(handedOn).join(", ") : valueText(v);
}

/**
 * What comes once the form was sent. Texts decide nothing: what cannot be worked out is left out of them.
 * @param access what whoever sent it may see of the form: of what is hidden from them nothing is told, nor handed on
 */
export function afterSending(turn: Turn, access: AccessOf): Sent | null {
  const found = sentOf(turn.release, followerOf(turn.state.requester) !== null);
  if (!found) return null;
  const { start, sent } = found;
  const at = { step: start, scope: null };
  const names = turn.names(null);
  const { fields } = turn.release.definition;
  const unseen = new Set<string>();
  walkFields(fields, (f, parents) => {
    if ([f, ...parents].some((x) => access(x.id) === "hide")) unseen.add(f.id);
  });
  const hidden = (place: string, formula: string): boolean => {
    const f = turn.formula(start, place, formula);
    return f !== null && fieldsRead(f.reads, fields).some((id) => unseen.has(id));
  };
  const text = (template: string, value: (formula: string) => string): string =>
    templateParts(template)
      .map((p) => ("formula" in p ? value(p.formula) : p.text))
      .join("");
  const handed = (place: string, formula: string): string =>
    hidden(place, formula) ? "" : handedOn(turn.readIn(at, place, formula, names));
  const { leads } = sent;
  const says = text(sent.says ?? "", (f) =>
    hidden("sent says", f) ? HIDDEN : turn.words(at, "sent says", f, names, null),
  );
  if (!leads) return { says, leads: null };
  if (leads.to === "address") {
    const href = text(leads.address, (f) => encodeURIComponent(handed("sent address", f)));
    return { says, leads: { to: "address", href } };
  }
  const values = leads.values.flatMap(({ name, value }): [string, string][] => {
    const is = value.trim() ? handed(`sent value ${name}`, value) : "";
    return is ? [[name, is]] : [];
  });
  return { says, leads: { to: "form", process: leads.process, values } };
}
