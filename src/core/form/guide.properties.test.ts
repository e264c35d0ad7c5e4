import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import { KINDS } from "@/kinds";
import {
  compileForm,
  evaluateForm,
  factsFrom,
  fieldsOfPart,
  guideParts,
  placeInGuide,
  prepareForm,
  walkFields,
  type Field,
  type FormData,
} from ".";

const now = Temporal.ZonedDateTime.from("2026-03-12T10:00[Europe/Dublin]");
const facts = factsFrom({ people: {}, registers: {}, records: {} }, { now }, KINDS.fields);

/** A form whose pages and fields come and go by what is typed into fields before, after and beside them. */
const form = fc
  .array(
    fc.record({
      page: fc.boolean(),
      fields: fc.integer({ min: 1, max: 3 }),
      hangs: fc.option(fc.nat(8)),
      inner: fc.option(fc.nat(8)),
    }),
    { minLength: 1, maxLength: 5 },
  )
  .map((groups) => {
    const count = groups.reduce((n, g) => n + g.fields, 0);
    let n = 0;
    const shown = (by: number | null) =>
      by === null ? {} : { shown: `F${by % count} ${by % 2 === 0 ? '= "yes"' : '!= "no"'}` };
    return groups.flatMap((g, i): Field[] => {
      const fields = Array.from({ length: g.fields }, (_, k): Field => ({
        id: `f${n}`,
        name: `F${n++}`,
        kind: "text",
        ...shown(k === 0 ? g.inner : null),
      }));
      return g.page ? [{ id: `p${i}`, name: `P${i}`, kind: "page", ...shown(g.hangs), fields }] : fields;
    });
  });
const move = fc.record({
  go: fc.constantFrom("next", "back", "stay"),
  others: fc.boolean(),
  types: fc.array(fc.tuple(fc.nat(11), fc.constantFrom("yes", "no", "")), { maxLength: 2 }),
});

it("going through a guided form page by page, forth and back, comes to what filling it in all at once does", () => {
  fc.assert(
    fc.property(form, fc.array(move, { maxLength: 12 }), (fields, moves) => {
      const prepared = prepareForm(fields, { registers: {}, kinds: KINDS }).form;
      const program = compileForm(prepared, KINDS.fields);
      const run = (d: FormData) => evaluateForm(program, d, () => "edit", facts);
      const all = guideParts(fields, "To begin");
      // Each field stands on one page, in the order of the form.
      const order: string[] = [];
      walkFields(fields, (f) => void order.push(f.id));
      expect(all.flatMap((p) => [...fieldsOfPart(p)])).toEqual(order);
      const shownNow = (d: FormData) => {
        const { shown } = run(d);
        return all.filter((p) => p.fields.some((f) => shown.has(f.id)));
      };
      let typed: FormData = {};
      const given: [string, string][] = [];
      let at: string | null = shownNow(typed)[0]?.id ?? null;
      for (const m of moves) {
        // Mostly on the page they are on; and what others change meanwhile is put in on any.
        const here = all.find((p) => p.id === at);
        const within = here && !m.others ? [...fieldsOfPart(here)] : order;
        const own = within.filter((id) => id.startsWith("f"));
        for (const [nth, text] of m.types) {
          const id = own[nth % Math.max(own.length, 1)];
          if (id === undefined || !run(typed).shown.has(id)) continue;
          typed = { ...typed, [id]: text };
          given.push([id, text]);
        }
        const shown = shownNow(typed);
        at = placeInGuide(all, shown, at);
        // They stand on a page that is shown, or at the end: never on one that is gone.
        expect(at === null || shown.some((p) => p.id === at)).toBe(true);
        const k = shown.findIndex((p) => p.id === at);
        if (m.go === "next" && k >= 0) at = shown[k + 1]?.id ?? null;
        if (m.go === "back") at = (k < 0 ? shown.at(-1) : shown[Math.max(k - 1, 0)])?.id ?? null;
      }
      // The same answers given at once, in the order of the form, to a form that has evaluated nothing before.
      const last = new Map(given);
      const atOnce: FormData = Object.fromEntries(
        order.flatMap((id) => (last.has(id) ? [[id, last.get(id)!]] : [])),
      );
      const fresh = evaluateForm(compileForm(prepared, KINDS.fields), atOnce, () => "edit", facts);
      expect({ ...run(typed), names: null }).toEqual({ ...fresh, names: null });
    }),
    { seed: 15, numRuns: 300, endOnFailure: true },
  );
});
