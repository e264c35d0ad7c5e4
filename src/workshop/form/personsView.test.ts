import type { Field } from "@/core/form";
import type { ProcessDefinition } from "@/core/route";
import { personsView, sightText } from "./personsView";

const field = (id: string): Field => ({ id, name: id, kind: "text" });
const definition: ProcessDefinition = {
  format: "cobble-step/process@2",
  key: "x",
  name: "X",
  purpose: "",
  owners: ["olga"],
  numbering: { prefix: "XYZ", digits: 4 },
  title: "",
  starts: [],
  fields: [field("open"), field("mine"), field("theirs")],
  access: {
    start: { theirs: "hide" },
    check: { mine: "hide", theirs: "edit" },
    watch: { mine: "hide", open: "see", theirs: "hide" },
  },
  route: [
    {
      id: "check",
      name: "Check",
      kind: "complete",
      who: { rule: { by: "requester" }, how: "one" },
      button: "Done",
    },
  ],
  samples: [],
};
const at = { step: "check", requester: "rita", asked: ["dov"] };
const seen = (person: string, where = at, d = definition) => {
  const s = personsView(d, where, person);
  return s.as === "nobody" ? s.as : `${s.as} ${d.fields.map((f) => s.access(f.id)).join(" ")}`;
};

it.each([
  ["dov", "asked see hide edit"],
  // What the start showed, and never to be filled in.
  ["rita", "reads see see hide"],
  ["olga", "reads see hide hide"],
  ["nora", "nobody"],
])("%s has of a step: %s", (person, is) => {
  expect(seen(person)).toBe(is);
});
it("whoever is several things has what each of them has", () => {
  expect(seen("olga", { ...at, requester: "olga" })).toBe("reads see see hide");
  // Asked, they have the step's form, like everybody it asks.
  expect(seen("rita", { ...at, asked: ["rita"] })).toBe("asked see hide edit");
});
it("whoever asked sees nothing of the form of a procedure", () => {
  const d: ProcessDefinition = { ...definition, procedure: true };
  expect(["rita", "olga", "dov"].map((p) => seen(p, at, d))).toEqual([
    "nobody",
    "reads see hide hide",
    "asked see hide edit",
  ]);
});
it("nobody but who asks has it before it is sent", () => {
  const start = { step: "start", requester: "rita", asked: [] };
  expect(["rita", "olga", "dov"].map((p) => seen(p, start))).toEqual([
    "asked edit edit hide",
    "nobody",
    "nobody",
  ]);
});
it("says so in a sentence", () => {
  const text = (person: string, where = at) =>
    sightText(personsView(definition, where, person), person, where.step === "start");
  expect(text("dov")).toBe("dov is asked here.");
  expect(text("rita")).toBe("rita only reads it meanwhile, as whoever asked.");
  expect(text("olga", { ...at, requester: "olga" })).toBe(
    "olga only reads it meanwhile, as whoever asked and an owner.",
  );
  expect(text("nora")).toMatch(/sees nothing of it/);
  expect(text("rita", { ...at, step: "start" })).toBe("rita fills it in.");
  expect(text("nora", { ...at, step: "start" })).toMatch(/before it is sent/);
});
