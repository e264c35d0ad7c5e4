import { KINDS } from "@/kinds";
import { definitionOf, fin } from "../engine/testRequest";
import type { Step } from "./definition";
import { usesOf } from "./usesOf";

const ask = (id: string, rule: object, more: Step[] = []): Step =>
  ({
    id,
    name: id,
    kind: "decide",
    who: { rule, how: "one" },
    answers: [{ id: "y", label: "Y", tone: "agree", steps: more }],
  }) as Step;
const d = definitionOf(
  [
    ask("guard", { by: "duty", duty: "Guard" }, [ask("inner", { by: "group", group: "registry" })]),
    ask("formula", { by: "formula", formula: 'duty holders("Guard")' }),
    { ...KINDS.steps.find.blank("found"), name: "Found", register: "objects" } as Step,
    fin("e", "done"),
  ],
  {
    calendar: "office",
    starts: [{ id: "form", kind: "form", who: { by: "group", group: "registry" } }],
    fields: [
      {
        id: "s",
        name: "S",
        kind: "section",
        fields: [{ id: "o", name: "Thing", kind: "look-up", register: "objects" }],
      },
    ],
  },
);
const uses = (of: Parameters<typeof usesOf>[2], key: string) =>
  usesOf(d, KINDS, of, key).map((u) => [u.number, u.name].filter(Boolean).join(" "));

it("finds what names a thing of the office, each once and where it stands", () => {
  expect(uses("duty", "Guard")).toEqual(["2 guard", "3 formula"]);
  expect(uses("group", "registry")).toEqual(["the process itself", "2a.1 inner"]);
  expect(uses("register", "objects")).toEqual(["field Thing", "4 Found"]);
  expect(uses("calendar", "office")).toEqual(["the process itself"]);
});

it("finds nothing that is only called alike", () => {
  expect(uses("group", "Guard")).toEqual(["3 formula"]);
  expect(uses("register", "Guard")).toEqual([]);
  expect(uses("duty", "guard")).toEqual([]);
  expect(uses("calendar", "objects")).toEqual([]);
});
