import fc from "fast-check";
import { KINDS } from "@/kinds";
import type { Letter } from "../letter";
import { definitionOf } from "../engine/testRequest";
import { placesOf, RouteScopes, type Step } from ".";

type Node = { sends: boolean } | { rounds: Node[] };
const node: fc.Arbitrary<Node> = fc.letrec<{ node: Node }>((tie) => ({
  node: fc.oneof(
    { maxDepth: 3 },
    fc.record({ sends: fc.boolean() }),
    fc.record({ rounds: fc.array(tie("node"), { maxLength: 3 }) }),
  ),
})).node;

/** Steps that send the letter or another, and rounds around them. */
function stepsOf(nodes: readonly Node[], ids: () => string): Step[] {
  return nodes.map((n): Step => {
    const id = ids();
    if ("sends" in n)
      return { ...KINDS.steps.tell.blank(id), name: id, mail: {}, letter: n.sends ? "l" : "other" } as Step;
    const bodies = [{ id: `${id}-b`, steps: stepsOf(n.rounds, ids) }];
    return {
      ...KINDS.steps["for each"].blank(id),
      name: id,
      over: { list: "[1]" },
      item: `Item ${id}`,
      bodies,
    } as unknown as Step;
  });
}
const letter = (id: string, more: Partial<Letter> = {}): Letter => ({
  id,
  name: id,
  texts: [{ language: "en", subject: "", parts: [] }],
  ...more,
});

it("a letter reads the items of just those rounds in which every step stands that sends it", () => {
  let inRounds = 0;
  fc.assert(
    fc.property(fc.array(node, { minLength: 1, maxLength: 4 }), fc.boolean(), (nodes, byHand) => {
      let n = 0;
      const route = stepsOf(nodes, () => `s${++n}`);
      const d = definitionOf(route, {
        letters: [letter("l", byHand ? { byHand: true } : {}), letter("other")],
      });
      const scopes = new RouteScopes(d, { registers: {}, kinds: KINDS });
      // Slowly: each rounds step that is around all senders; by hand, or sent by nobody, none is.
      const places = [...placesOf(d, KINDS).values()];
      const senders = places.filter((p) => p.step.kind === "tell" && p.step.letter === "l");
      const around = places
        .filter((p) => p.step.kind === "for each")
        .map((p) => p.step.id)
        .filter((id) => senders.every((s) => s.owners.some((o) => o.step.id === id)));
      const wanted = byHand || senders.length === 0 ? [] : around;
      const { scope } = scopes.of({ kind: "letter", id: "l" }, undefined);
      const read = Object.keys(scope).flatMap((k) =>
        /^Item s\d+$/.test(k) ? [k.slice("Item ".length)] : [],
      );
      expect(read.sort()).toEqual([...wanted].sort());
      // The innermost of them is last in reading order.
      expect(scopes.roundsOf("letter l")).toBe(wanted.at(-1) ?? null);
      if (wanted.length > 0) inRounds++;
    }),
    { seed: 14, numRuns: 500, endOnFailure: true },
  );
  expect(inRounds).toBeGreaterThan(40);
});
