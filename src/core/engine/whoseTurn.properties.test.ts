import fc from "fast-check";
import type { Assignment, Rule, Step } from "../route";
import { loadsKey, type Loads } from "./loads";
import { ans, definitionOf, fin, harness, proceduresOf } from "./testRequest";

const PEOPLE = ["carmel", "declan", "fergus"];
const REGISTRY: Rule = { by: "group", group: "registry" };
type By = NonNullable<Assignment["turns"]>;

const asks = (turns: By): Step => ({
  id: "check",
  name: "check",
  kind: "decide",
  who: { rule: REGISTRY, how: "one", turns },
  answers: [ans("yes", "agree")],
});
const each = (times: number, steps: Step[]): Step => ({
  id: "each",
  name: "each",
  kind: "for each",
  over: { times: String(times) },
  item: "Item",
  bodies: [{ id: "body", steps }],
});

/** The same as one would do it by hand: a sheet with a line for each person, filled in as each is given one. */
function byHand(by: By, times: number, loads: Loads): string[] {
  const sheet = PEOPLE.map((person) => ({
    person,
    open: loads[person]!.open,
    last: loads[person]!.last ?? -1,
  }));
  const out: string[] = [];
  for (let n = 0; n < times; n++) {
    let best = sheet[0]!;
    for (const line of sheet.slice(1)) {
      const earlier = line.last < best.last;
      const better =
        by === "in turn" ? earlier : line.open < best.open || (line.open === best.open && earlier);
      if (better) best = line;
    }
    out.push(best.person);
    best.open++;
    best.last = 1000 + n;
  }
  return out;
}

const load = fc.record({
  open: fc.integer({ min: 0, max: 4 }),
  last: fc.option(fc.integer({ min: 1, max: 9 })),
});
const cases = fc.record({
  by: fc.constantFrom<By>("in turn", "fewest open"),
  times: fc.integer({ min: 1, max: 9 }),
  // No two were given one at the same moment.
  loads: fc
    .tuple(load, load, load)
    .filter((all) => new Set(all.map((l) => l.last ?? Math.random())).size === 3)
    .map((all) => Object.fromEntries(PEOPLE.map((p, i) => [p, all[i]!])) as Loads),
  inside: fc.boolean(),
});

it("people are given what a step asks as one would do it by hand, also in several procedures of one request", () => {
  fc.assert(
    fc.property(cases, ({ by, times, loads, inside }) => {
      const procedure = definitionOf([asks(by), fin("out", "done")], {
        key: "look",
        procedure: true,
        starts: [],
        fields: [],
      });
      const handTo = {
        id: "hand",
        name: "hand",
        kind: "hand to",
        procedure: "look",
        takes: [],
        gives: [],
        values: [],
      };
      const route = [each(times, [inside ? (handTo as unknown as Step) : asks(by)]), fin("end", "approved")];
      const asked = { by, process: inside ? "look" : "test", step: "check", people: PEOPLE };
      const h = harness(
        definitionOf(route),
        {},
        {},
        () => ({ loads: { [loadsKey(asked)]: loads } }),
        proceduresOf({ look: [procedure] }),
      );
      expect(h.start().ok).toBe(true);
      expect(h.open().map((t) => t.candidates.map((c) => c.person).join())).toEqual(byHand(by, times, loads));
    }),
    { numRuns: 300 },
  );
});
