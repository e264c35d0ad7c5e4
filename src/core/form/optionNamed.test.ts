import { KINDS } from "@/kinds";
import { choicesText, optionNamed, optionText, readsTwice, type Field } from ".";

const f: Field = {
  id: "w",
  name: "Wanted",
  kind: "choice",
  options: ["move", "give", "back", "Move"],
  optionLabels: { move: "To another day", give: "To somebody else", gone: "No more" },
};
it.each([
  ["move", "move"],
  ["Move", "Move"],
  ["MOVE", "MOVE"],
  ["GIVE", "give"],
  ["To another day", "move"],
  ["to somebody else", "give"],
  ["back", "back"],
  ["No more", "No more"],
  ["", ""],
])("%j names %j", (text, is) => {
  expect(optionNamed(f, text)).toBe(is);
});
it("reads as its words, and as itself where it has none", () => {
  expect(["move", "back", "constructor"].map((o) => optionText(f, o))).toEqual([
    "To another day",
    "back",
    "constructor",
  ]);
  expect(choicesText(f, "give\nback")).toBe("To somebody else, back");
  expect(optionText({}, "x")).toBe("x");
});
it("a choice is kept by what it is, also where a sheet or a mail says it as people read it", () => {
  const ctx = {
    reading: { dates: "day" as const, decimal: "." as const },
    named: () => ({ why: "none" as const }),
  };
  expect(KINDS.fields.choice.cell!(f, { text: " to somebody else " }, ctx)).toEqual({ kept: "give" });
  const several: Field = {
    ...f,
    kind: "several choices",
    optionLabels: { move: "Day, another", give: "Else" },
  };
  expect(KINDS.fields["several choices"].cell!(several, { text: "else; Day, another" }, ctx)).toEqual({
    kept: "move\ngive",
  });
  expect(KINDS.fields.choice.mistakes(f, "no", "no")).toEqual([
    {
      code: "not-an-option",
      data: { value: "no", limit: "To another day, To somebody else, back, Move" },
    },
  ]);
});
it("two that read the same are a mistake", () => {
  expect(readsTwice(f)).toBeNull();
  expect(readsTwice({ ...f, optionLabels: { give: "back" } })).toBe("back");
});
