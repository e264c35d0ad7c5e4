import { applyEdit, type Step } from ".";
import { AROUND, apply, base, withRoute } from "./testDefinition";

const decide = (id: string, name: string): Step => ({
  id,
  name,
  kind: "decide",
  who: { rule: { by: "person", person: "una" }, how: "one" },
  answers: [{ id: `${id}-yes`, label: "Yes", tone: "agree", steps: [] }],
});
const choose = (when: string): Step => ({
  id: "c",
  name: "Choose",
  kind: "choose",
  ways: [{ id: "w", name: "Way", when, steps: [] }],
});
const when = (d: { route: readonly Step[] }) => {
  const c = d.route.find((s) => s.id === "c");
  return c?.kind === "choose" ? c.ways[0]!.when : null;
};
const set = (id: string, name: string) => ({ op: "step.set" as const, id, patch: { name } });

it("renaming a step mends the formulas that read its outcome, and goes back to the letter", () => {
  const d = withRoute(decide("d", "Director"), choose('Director.answer = "Yes" and Director.by != null'));
  const r = apply(d, set("d", "Head of house"));
  expect(when(r.definition)).toBe('Head of house.answer = "Yes" and Head of house.by != null');
  expect(apply(r.definition, r.inverse).definition).toEqual(d);
});

it("a field of the step's name is what formulas read, and stays", () => {
  const d = {
    ...withRoute(decide("d", "Director"), choose("Director = null")),
    fields: [...base.fields, { id: "f", name: "Director", kind: "text" as const }],
  };
  expect(when(apply(d, set("d", "Head")).definition)).toBe("Director = null");
  expect(when(apply(d, { op: "field.rename", id: "f", name: "Head" }).definition)).toBe("Head = null");
});

it("of two steps of one name the first is read", () => {
  const d = withRoute(decide("d", "Check"), decide("e", "Check"), choose("Check.answer = null"));
  expect(when(apply(d, set("e", "Second check")).definition)).toBe("Check.answer = null");
  expect(when(apply(d, set("d", "First check")).definition)).toBe("First check.answer = null");
});

it("is refused where the new name would be a field's or could not be read", () => {
  const d = withRoute(decide("d", "Director"), choose('Director.answer = "Yes"'));
  for (const name of ["Total", "Director?"]) {
    const r = applyEdit(d, set("d", name), AROUND);
    expect(r.ok ? null : r.refusal.code).toBe("rename-unclear");
  }
  // Where nobody reads it, a step may be called as one likes.
  expect(applyEdit(withRoute(decide("d", "Director")), set("d", "Director?"), AROUND).ok).toBe(true);
});

it("a name in a set of several properties leaves the other ones as they are sent", () => {
  const d = withRoute(decide("d", "Director"), choose('Director.answer = "Yes"'));
  const who = { rule: { by: "person", person: "brendan" }, how: "one" };
  const r = apply(d, { op: "step.set", id: "d", patch: { name: "Head", who } });
  expect(r.definition.route[0]).toMatchObject({ name: "Head", who });
  expect(when(r.definition)).toBe('Head.answer = "Yes"');
  expect(apply(r.definition, r.inverse).definition).toEqual(d);
});
