import fc from "fast-check";
import { mentionsIn } from ".";

const PEOPLE = [
  { id: "una", name: "Una Quirke" },
  { id: "una.b", name: "Una Quirke Byrne" },
  { id: "ann", name: "Ann" },
  { id: "anna", name: "Anna" },
  { id: "j1", name: "Jo Lind" },
  { id: "j2", name: "Jo Lind" },
  { id: "siobhan", name: "Siobhán Ó Sé" },
  { id: "none", name: "" },
];
const of = (text: string) => mentionsIn(text, PEOPLE);

it.each([
  ["@Una Quirke please look", ["una"]],
  ["@una quirke, and @ANN.", ["una", "ann"]],
  ["@Una Quirke Byrne", ["una.b"]],
  ["@Una Quirke Byrnes", ["una"]],
  ["@Anna", ["anna"]],
  ["@Annabel", []],
  ["mail una@Ann", []],
  ["(@Siobhán Ó Sé)", ["siobhan"]],
  ["@Ann @Ann @Una Quirke", ["ann", "una"]],
  ["@", []],
  ["@@Ann", ["ann"]],
  ["@ Ann", []],
])("%s mentions %j", (text, people) => expect(of(text)).toEqual({ people, several: [] }));

it("tells names that several have, and means none of them", () => {
  expect(of("@Jo Lind and @Ann")).toEqual({ people: ["ann"], several: ["Jo Lind"] });
});

it("finds just those that a slow reading finds, in any text", () => {
  const piece = fc.constantFrom(
    "@",
    "Ann",
    "Anna",
    "a",
    " ",
    "Una",
    " Quirke",
    " Byrne",
    ".",
    "jo lind",
    "x",
  );
  const letter = /[\p{L}\p{N}]/u;
  fc.assert(
    fc.property(fc.array(piece, { maxLength: 30 }), (pieces) => {
      const text = pieces.join("");
      const slow: string[] = [];
      for (let i = 0; i < text.length; i++) {
        if (text[i] !== "@" || (i > 0 && letter.test(text[i - 1]!))) continue;
        const fitting = PEOPLE.filter(
          (p) =>
            p.name !== "" &&
            text
              .slice(i + 1)
              .toLowerCase()
              .startsWith(p.name.toLowerCase()) &&
            !letter.test(text[i + 1 + p.name.length] ?? ""),
        ).sort((a, b) => b.name.length - a.name.length);
        const best = fitting.filter((p) => p.name.length === fitting[0]!.name.length);
        if (best.length === 1 && !slow.includes(best[0]!.id)) slow.push(best[0]!.id);
      }
      expect(of(text).people).toEqual(slow);
    }),
    { endOnFailure: true },
  );
});
