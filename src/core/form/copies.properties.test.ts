import { KINDS } from "@/kinds";
import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import {
  compileForm,
  evaluateForm,
  factsFrom,
  mergeEdits,
  prepareForm,
  type Access,
  type Field,
  type FormData,
  type StoredRow,
} from ".";
import { prices } from "./testForm";

/**
 * A form filled in by several people one after another while the price list moves. The slow model says of each copy when
 * it was taken: when somebody who may pick the item picked another one, and at no other moment.
 */
const FIELDS: Field[] = [
  { id: "main", name: "Main", kind: "look-up", register: "prices" },
  { id: "mainprice", name: "Main price", kind: "money", worked: "Main.Price", copied: true },
  {
    id: "lines",
    name: "Lines",
    kind: "lines",
    fields: [
      { id: "item", name: "Item", kind: "look-up", register: "prices" },
      { id: "qty", name: "Quantity", kind: "number" },
      { id: "price", name: "Price", kind: "money", worked: "Item.Price", copied: true },
      { id: "sum", name: "Sum", kind: "money", worked: "Quantity * Price" },
    ],
  },
  { id: "total", name: "Total", kind: "money", worked: "sum(Lines.Sum) + Main price" },
];
const program = compileForm(prepareForm(FIELDS, { registers: { prices }, kinds: KINDS }).form, KINDS.fields);

const item = fc.constantFrom("1", "2", "3");
const deed = fc.record({
  /** What the prices are by then, by item. */
  prices: fc.record({ "1": fc.nat(9), "2": fc.nat(9), "3": fc.nat(9) }),
  main: item,
  /** Rows they leave behind, in their order, by id. */
  rows: fc.uniqueArray(fc.record({ id: fc.constantFrom("a", "b", "c", "d"), item, qty: fc.nat(5) }), {
    selector: (r) => r.id,
    maxLength: 4,
  }),
  /** What they may edit. */
  may: fc.record({ main: fc.boolean(), lines: fc.boolean(), item: fc.boolean(), qty: fc.boolean() }),
});
type Deed = typeof deed extends fc.Arbitrary<infer T> ? T : never;

function factsOf(p: Deed["prices"]) {
  const records = Object.fromEntries(
    Object.entries(p).map(([id, price]) => [id, { id, item: `Item ${id}`, price: String(price) }]),
  );
  const around = { now: Temporal.ZonedDateTime.from("2026-03-03T10:00[Europe/Dublin]") };
  return factsFrom({ people: {}, registers: { prices }, records: { prices: records } }, around, KINDS.fields);
}

interface ModelRow {
  item: string | null;
  qty: number | null;
  price: number | null;
}
function slowly(deeds: readonly Deed[]) {
  let main: { item: string | null; price: number | null } = { item: null, price: null };
  let rows: [string, ModelRow][] = [];
  for (const d of deeds) {
    const priceOf = (i: string) => d.prices[i as "1"];
    if (d.may.main && d.main !== main.item) main = { item: d.main, price: priceOf(d.main) };
    if (!d.may.lines) continue;
    const old = new Map(rows);
    rows = d.rows.map((r) => {
      const was = old.get(r.id) ?? { item: null, qty: null, price: null };
      const picked = d.may.item && r.item !== was.item;
      return [
        r.id,
        {
          item: picked ? r.item : was.item,
          qty: d.may.qty ? r.qty : was.qty,
          price: picked ? priceOf(r.item) : was.price,
        },
      ];
    });
  }
  const sums = rows.map(([, r]) => (r.qty === null || r.price === null ? null : r.qty * r.price));
  return { main, rows, sums };
}

const ALL: Deed["may"] = { main: true, lines: true, item: true, qty: true };

it("a copy is taken when its item is picked, by whom it may be picked, and at no other moment", () => {
  let kept = 0;
  fc.assert(
    fc.property(fc.array(deed, { minLength: 2, maxLength: 5 }), ([first, ...more]) => {
      const deeds = [{ ...first!, may: ALL }, ...more];
      let data: FormData = {};
      for (const d of deeds) {
        const access = (id: string): Access => ((d.may as Record<string, boolean>)[id] ? "edit" : "see");
        const sent: FormData = {
          main: d.main,
          mainprice: "999",
          lines: d.rows.map((r): StoredRow => ({
            "#": r.id,
            item: r.item,
            qty: String(r.qty),
            price: "999",
          })),
        };
        const merged = mergeEdits(FIELDS, data, sent, access);
        data = evaluateForm(program, merged, access, factsOf(d.prices), new Map(), data).data;
        // Whoever only looks, at other prices still, sees what is kept.
        const seen = evaluateForm(program, data, () => "see", factsOf({ "1": 77, "2": 77, "3": 77 }));
        expect(seen.data).toEqual(data);
      }
      const slow = slowly(deeds);
      const n = (v: number | null) => (v === null ? null : String(v));
      expect(data["main"]).toBe(slow.main.item);
      expect(data["mainprice"]).toBe(n(slow.main.price));
      expect(data["lines"]).toEqual(
        slow.rows.map(([id, r], i) => ({
          "#": id,
          item: r.item,
          qty: n(r.qty),
          price: n(r.price),
          sum: n(slow.sums[i]!),
        })),
      );
      const last = deeds.at(-1)!;
      if (slow.rows.some(([, r]) => r.item && r.price !== last.prices[r.item as "1"])) kept++;
    }),
    { seed: 12, numRuns: 1500 },
  );
  expect(kept).toBeGreaterThan(500);
});

/**
 * The same with values that are fixed when it is sent, and with some that are read anew by their names. The slow model
 * keeps a table of what each cell is, and touches only what the deed says.
 */
const KEPT: Field[] = [
  { id: "main", name: "Main", kind: "look-up", register: "prices" },
  { id: "maincopy", name: "Main copy", kind: "money", worked: "Main.Price", copied: true },
  { id: "mainfixed", name: "Main fixed", kind: "money", worked: "Main.Price", fixed: true },
  {
    id: "lines",
    name: "Lines",
    kind: "lines",
    fields: [
      { id: "item", name: "Item", kind: "look-up", register: "prices" },
      { id: "copy", name: "Copy", kind: "money", worked: "Item.Price", copied: true },
      { id: "fixed", name: "Fixed", kind: "money", worked: "Item.Price", fixed: true },
      { id: "live", name: "Live", kind: "money", worked: "Copy + Fixed" },
    ],
  },
  { id: "total", name: "Total", kind: "money", worked: "sum(Lines.Live) + Main copy + Main fixed" },
];
const keeping = compileForm(prepareForm(KEPT, { registers: { prices }, kinds: KINDS }).form, KINDS.fields);
const named = fc.subarray(["maincopy", "mainfixed", "copy", "fixed"]);
/** A price of nobody: the record is gone. */
const gone = fc.subarray(["1", "2", "3"]);

interface KeptRow {
  item: string;
  copy: number | null;
  fixed: number | null;
}

it("what is named is read anew where it can be, what is fixed stays else, and nothing else moves", () => {
  const seen = { anew: 0, stayed: 0 };
  const turn = fc.record({ deed, named, gone, fills: fc.boolean() });
  fc.assert(
    fc.property(fc.array(turn, { minLength: 2, maxLength: 5 }), (turns) => {
      let data: FormData = {};
      let main: { item: string | null; copy: number | null; fixed: number | null } | null = null;
      let rows: [string, KeptRow][] = [];
      turns.forEach(({ deed: d, named: ids, gone: lost, fills }, nth) => {
        const left = nth === 0 ? [] : lost;
        const known = Object.fromEntries(Object.entries(d.prices).filter(([id]) => !left.includes(id)));
        const priceOf = (i: string | null) =>
          i === null ? null : ((known as Record<string, number>)[i] ?? null);
        const facts = factsOf(known as Deed["prices"]);
        // The first fills in, later ones fill in or only answer.
        if (nth === 0 || fills) {
          const sent: FormData = {
            main: d.main,
            lines: d.rows.map((r): StoredRow => ({ "#": r.id, item: r.item })),
          };
          const merged = mergeEdits(KEPT, data, sent, () => "edit");
          data = evaluateForm(keeping, merged, () => "edit", facts, new Map(), data).data;
          main = {
            item: d.main,
            copy: main && main.item === d.main && main.copy !== null ? main.copy : priceOf(d.main),
            fixed: main ? main.fixed : priceOf(d.main),
          };
          const old = new Map(rows);
          rows = d.rows.map((r) => {
            const was = old.get(r.id);
            const same = was?.item === r.item && was.copy !== null;
            return [
              r.id,
              {
                item: r.item,
                copy: same ? was.copy : priceOf(r.item),
                fixed: was ? was.fixed : priceOf(r.item),
              },
            ];
          });
        }
        const r = evaluateForm(keeping, data, () => "see", facts, new Map(), data, new Set(ids));
        data = r.data;
        const read = (id: string, was: number | null, of: string | null) => {
          if (!ids.includes(id)) return was;
          const now = priceOf(of);
          if (now === null && was !== null) seen.stayed++;
          if (now !== null && now !== was) seen.anew++;
          return now ?? was;
        };
        main = main && {
          item: main.item,
          copy: read("maincopy", main.copy, main.item),
          fixed: read("mainfixed", main.fixed, main.item),
        };
        rows = rows.map(([id, x]) => [
          id,
          { item: x.item, copy: read("copy", x.copy, x.item), fixed: read("fixed", x.fixed, x.item) },
        ]);
        const n = (v: number | null) => (v === null ? null : String(v));
        expect([data["maincopy"], data["mainfixed"]]).toEqual([n(main!.copy), n(main!.fixed)]);
        expect(data["lines"]).toEqual(
          rows.map(([id, x]) => ({
            "#": id,
            item: x.item,
            copy: n(x.copy),
            fixed: n(x.fixed),
            live: x.copy === null || x.fixed === null ? null : String(x.copy + x.fixed),
          })),
        );
      });
    }),
    { seed: 29, numRuns: 1500, endOnFailure: true },
  );
  expect(seen.anew).toBeGreaterThan(1000);
  expect(seen.stayed).toBeGreaterThan(300);
});
