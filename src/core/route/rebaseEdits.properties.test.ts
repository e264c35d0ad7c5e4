import fc from "fast-check";
import { walkFields } from "../form";
import { KINDS } from "@/kinds";
import { applyEdit, listsOf, placesOf, rebaseEdits, withLists, type Edit, type ProcessDefinition } from ".";
import { AROUND, base } from "./testDefinition";
import { anEdit } from "./testEdits";

/** What of a list of edits applies, one behind the other, and what comes of it. */
function applied(edits: readonly Edit[]): { edits: Edit[]; definition: ProcessDefinition } {
  const out: Edit[] = [];
  let definition = base;
  for (const e of edits) {
    const r = applyEdit(definition, e, AROUND);
    if (!r.ok) continue;
    out.push(e);
    definition = r.definition;
  }
  return { edits: out, definition };
}

/** Names in texts as the ids they stand for, so that texts that mean the same are equal. Null where names are not unique. */
function byIds(d: ProcessDefinition): ((text: string) => string) | null {
  const ids = new Map<string, string>();
  let unique = true;
  const name = (n: string, id: string) => {
    if (ids.has(n)) unique = false;
    ids.set(n, id);
  };
  walkFields(d.fields, (f) => name(f.name, `#f:${f.id}#`));
  // A formula that reads what is gone still says which.
  walkFields(base.fields, (f) => {
    if (![...ids.values()].includes(`#f:${f.id}#`) && !ids.has(f.name)) name(f.name, `#f:${f.id}#`);
  });
  const names = [...ids.keys()].sort((a, b) => b.length - a.length);
  return unique ? (text) => names.reduce((t, n) => t.replaceAll(n, ids.get(n)!), text) : null;
}

/** A definition as one value per property of each thing, by id; where things stand in their lists is left out. */
function flat(d: ProcessDefinition): Map<string, string> | null {
  const read = byIds(d);
  if (!read) return null;
  const out = new Map<string, string>();
  const put = (at: string, o: object, but: readonly string[]) => {
    for (const [k, v] of Object.entries(o))
      if (!but.includes(k)) out.set(`${at}.${k}`, read(JSON.stringify(v) ?? ""));
  };
  const apart = ["fields", "route", "access", "forms", "samples", "starts", "letters", "documents", "owners"];
  put("process", d, apart);
  for (const [step, f] of Object.entries(d.forms ?? {})) put(`form ${step}`, f, []);
  for (const x of d.documents ?? []) {
    put(`document ${x.id}`, x, ["tags"]);
    for (const [i, t] of x.tags.entries()) put(`document ${x.id} tag ${i}`, t, []);
  }
  for (const s of d.starts) put(`start ${s.id}`, s, []);
  for (const { texts, ...l } of d.letters ?? []) {
    put(`letter ${l.id}`, l, []);
    for (const t of texts) put(`letter ${l.id} ${t.language}`, t, []);
  }
  for (const s of d.samples) put(`sample ${s.id}`, s, []);
  walkFields(d.fields, (f, parents) => {
    put(`field ${f.id}`, f, ["fields", "name"]);
    out.set(`field ${f.id}.in`, parents.at(-1)?.id ?? "");
  });
  for (const [id, p] of placesOf(d, KINDS)) {
    put(
      `step ${id}`,
      withLists(p.step, KINDS, () => []),
      ["answers", "ways", "branches"],
    );
    out.set(`step ${id}.in`, `${p.owners.at(-1)?.step.id}/${p.owners.at(-1)?.list}`);
    for (const l of listsOf(p.step, KINDS)) out.set(`list ${id}/${l.id}`, "there");
  }
  return out;
}
/** Theirs where mine is as it was before, else mine: slowly, property by property. */
function merged(b: Map<string, string>, t: Map<string, string>, m: Map<string, string>): Map<string, string> {
  const out = new Map<string, string>();
  for (const k of new Set([...b.keys(), ...t.keys(), ...m.keys()])) {
    const v = m.get(k) === b.get(k) ? t.get(k) : m.get(k);
    if (v !== undefined) out.set(k, v);
  }
  return out;
}
const sorted = (m: Map<string, string>) => [...m].sort(([a], [b]) => (a < b ? -1 : 1));

it("mine behind theirs is what each changed, property by property, whoever comes first", () => {
  let [compared, clashed, renamed] = [0, 0, 0];
  const edits = fc.array(anEdit, { minLength: 1, maxLength: 4 });
  fc.assert(
    fc.property(edits, edits, (a, b) => {
      const [theirs, mine] = [applied(a), applied(b)];
      const r = rebaseEdits(base, theirs.edits, mine.edits, AROUND);
      let d = theirs.definition;
      for (const e of r.edits) {
        const one = applyEdit(d, e, AROUND);
        expect(one.ok).toBe(true);
        if (one.ok) d = one.definition;
      }
      expect(d).toEqual(r.definition);
      if (r.clashes.length > 0 || r.refused.length > 0) {
        clashed++;
        return;
      }
      const all = [base, theirs.definition, mine.definition, r.definition].map(flat);
      if (all.some((x) => x === null)) return;
      const [was, t, m, is] = all as Map<string, string>[];
      expect(sorted(is!)).toEqual(sorted(merged(was!, t!, m!)));
      compared++;
      if (theirs.edits.some((e) => e.op === "field.rename")) renamed++;
      const other = rebaseEdits(base, mine.edits, theirs.edits, AROUND);
      expect([other.clashes, other.refused]).toEqual([[], []]);
      const back = flat(other.definition);
      if (back) expect(sorted(back)).toEqual(sorted(is!));
    }),
    { seed: 5, numRuns: 1200 },
  );
  expect(compared).toBeGreaterThan(250);
  expect(renamed).toBeGreaterThan(20);
  expect(clashed).toBeGreaterThan(80);
});
