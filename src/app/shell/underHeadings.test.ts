import { underHeadings } from "./underHeadings";

const entry = (name: string, under?: string, place?: number) => ({
  name,
  purpose: `To ask for ${name.toLowerCase()}`,
  listed: under === undefined ? null : { under, ...(place === undefined ? {} : { place }) },
});
const ALL = [
  entry("Store key", "Rooms", 2),
  entry("Object loan", "Collections"),
  entry("Gallery works", "Rooms", 1),
  entry("Care", "Collections"),
  entry("Anything else"),
  entry("Blank heading", " "),
];
const names = (words?: string) =>
  underHeadings(ALL, words).map((g) => [g.heading, g.entries.map((e) => e.name)]);

it("stand by place, then by name; headings by the least place in them; what has none at the end", () => {
  expect(names()).toEqual([
    ["Rooms", ["Gallery works", "Store key"]],
    ["Collections", ["Care", "Object loan"]],
    ["", ["Anything else", "Blank heading"]],
  ]);
});
it("the same whatever order they come in", () => {
  expect(underHeadings([...ALL].reverse())).toEqual(underHeadings(ALL));
});
it("are found by words in name, purpose and heading, all of them", () => {
  expect(names("rooms KEY")).toEqual([["Rooms", ["Store key"]]]);
  expect(names("ask loan")).toEqual([["Collections", ["Object loan"]]]);
  expect(names("rooms loan")).toEqual([]);
});
