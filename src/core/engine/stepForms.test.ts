import type { StepForm } from "../form";
import { ans, decideBy, definitionOf, fin, harness } from "./testRequest";

const ANSWERS = [ans("yes", "agree"), ans("no", "refuse")];
const at = (form: StepForm, where = "d") => {
  const h = harness(
    definitionOf([decideBy("d", { by: "person", person: "declan" }, ANSWERS), fin("e", "done")], {
      access: { d: { total: "edit", reason: "edit", secret: "hide" } },
      forms: { [where]: form },
    }),
  );
  h.start({ total: "100", reason: "first", secret: "s" });
  return h;
};
const sent = { total: "999", reason: "second", secret: "guessed" };

it("what a step does not show comes in through it in no way", () => {
  const h = at({ parts: ["reason"] });
  expect(h.answer("declan", "yes", "", sent).ok).toBe(true);
  expect(h.state.data).toMatchObject({ total: "100", reason: "second", secret: "s" });
});
it("nor does showing something let in what access keeps out", () => {
  const h = at({ parts: ["secret", "total"] });
  expect(h.answer("declan", "yes", "", sent).ok).toBe(true);
  expect(h.state.data).toMatchObject({ total: "999", reason: "first", secret: "s" });
});
it("nobody is held by a field they do not see there, and is by one they do", () => {
  const empty = { total: "" };
  expect(at({ parts: ["reason"] }).answer("declan", "yes", "", empty).ok).toBe(true);
  const shown = at({ parts: ["total"] }).answer("declan", "yes", "", empty);
  expect(shown).toMatchObject({
    ok: false,
    refusal: { code: "form", data: { problems: [{ path: "total" }] } },
  });
});
it("what is said of another step, or of looks alone, changes nothing", () => {
  for (const h of [at({ parts: [] }, "elsewhere"), at({ shows: "guided", heading: "Look", help: "So." })]) {
    expect(h.answer("declan", "yes", "", sent).ok).toBe(true);
    expect(h.state.data).toMatchObject({ total: "999", reason: "second" });
  }
});
it("holds at the start as well", () => {
  const h = harness(definitionOf([fin("e", "done")], { forms: { start: { parts: ["total"] } } }));
  h.start({ total: "5", reason: "guessed" });
  expect(h.state.data).toMatchObject({ total: "5", reason: null });
});
