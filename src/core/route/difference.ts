import { walkFields, type Field } from "../form";
import { isHandedTo } from "./handedTo";
import { broken, portsOf, type Kinds } from "../kinds";
import type { ProcessDefinition } from "./definition";
import { placesOf, withLists } from "./tree";

export interface Difference {
  what: "field" | "step" | "letter" | "ladder" | "template" | "access" | "process";
  how: "added" | "removed" | "changed" | "moved";
  name: string;
}

/** What differs between two versions of a process, in words a person can check. */
export function differences(before: ProcessDefinition, after: ProcessDefinition, kinds: Kinds): Difference[] {
  const out: Difference[] = [];
  const fields = (d: ProcessDefinition) => {
    const m = new Map<string, { f: Field; parent: string }>();
    walkFields(d.fields, (f, parents) => m.set(f.id, { f, parent: parents.at(-1)?.id ?? "" }));
    return m;
  };
  compare(fields(before), fields(after), out, "field", ({ f, parent }) => ({
    name: f.name,
    self: JSON.stringify({ ...f, fields: undefined }),
    where: parent,
  }));
  const steps = (d: ProcessDefinition) =>
    new Map(
      [...placesOf(d, kinds)].map(([id, p]) => [
        id,
        { s: p.step, where: p.owners.map((o) => o.list).join("/") },
      ]),
    );
  compare(steps(before), steps(after), out, "step", ({ s, where }) => ({
    name: s.name,
    // The lists inside it are compared on their own.
    self: JSON.stringify(withLists(s, kinds, () => [])),
    where,
  }));
  const letters = (d: ProcessDefinition) => new Map((d.letters ?? []).map((l) => [l.id, l]));
  compare(letters(before), letters(after), out, "letter", (l) => ({
    name: l.name,
    self: JSON.stringify(l),
    where: "",
  }));
  const ladders = (d: ProcessDefinition) => new Map((d.ladders ?? []).map((l) => [l.id, l]));
  compare(ladders(before), ladders(after), out, "ladder", (l) => ({
    name: l.name,
    self: JSON.stringify(l),
    where: "",
  }));
  const documents = (d: ProcessDefinition) => new Map((d.documents ?? []).map((x) => [x.id, x]));
  compare(documents(before), documents(after), out, "template", (x) => ({
    name: x.name,
    self: JSON.stringify(x),
    where: "",
  }));
  if (JSON.stringify(before.access) !== JSON.stringify(after.access))
    out.push({ what: "access", how: "changed", name: "who sees and edits which field" });
  if (JSON.stringify(before.forms ?? {}) !== JSON.stringify(after.forms ?? {}))
    out.push({ what: "access", how: "changed", name: "what of the form is shown where" });
  for (const k of [
    "name",
    "purpose",
    "title",
    "numbering",
    "starts",
    "calendar",
    "mailbox",
    "listed",
    "keepPersonalDays",
    "keepFilesDays",
    "mentions",
    "limit",
  ] as const)
    if (JSON.stringify(before[k]) !== JSON.stringify(after[k]))
      out.push({ what: "process", how: "changed", name: k });
  return out;
}

function compare<T>(
  a: Map<string, T>,
  b: Map<string, T>,
  out: Difference[],
  what: Difference["what"],
  look: (x: T) => { name: string; self: string; where: string },
) {
  for (const [id, x] of b) {
    const old = a.get(id);
    const now = look(x);
    if (!old) out.push({ what, how: "added", name: now.name });
    else if (look(old).self !== now.self) out.push({ what, how: "changed", name: now.name });
    else if (look(old).where !== now.where) out.push({ what, how: "moved", name: now.name });
  }
  for (const [id, x] of a) if (!b.has(id)) out.push({ what, how: "removed", name: look(x).name });
}

/** Whether what hands to a procedure or process may be wrong after a change of it: something handed over is gone or otherwise. */
export function breaksCallers(before: ProcessDefinition, after: ProcessDefinition, kinds: Kinds): boolean {
  if (!isHandedTo(before, kinds)) return false;
  if (!isHandedTo(after, kinds)) return true;
  const known = portsOf(before.fields);
  return broken(known, new Set(known.takes.map((p) => p.id)), portsOf(after.fields)).length > 0;
}

/**
 * The next version by Semantic Versioning: fields or steps gone is major, anything added minor, else patch.
 * @param breaking whether it is major in any case
 */
export function nextVersion(
  version: string | null,
  changes: readonly Difference[],
  breaking = false,
): string {
  if (version === null) return "1.0.0";
  const [major = 0, minor = 0, patch = 0] = version.split(".").map(Number);
  if (breaking || changes.some((c) => c.how === "removed")) return `${major + 1}.0.0`;
  if (changes.some((c) => c.how === "added" || c.how === "moved")) return `${major}.${minor + 1}.0`;
  return `${major}.${minor}.${patch + 1}`;
}
