import { pageNumber } from "./pageNumber";

it.each<[string | string[] | undefined, number]>([
  ["3", 3],
  [undefined, 1],
  ["0", 1],
  ["-1", 1],
  ["1e300", 1],
  ["999999", 100_000],
  ["9999999", 1],
  ["1.5", 1],
  ["NaN", 1],
  [["2", "3"], 1],
])("%j is page %i", (said, page) => expect(pageNumber(said)).toBe(page));
