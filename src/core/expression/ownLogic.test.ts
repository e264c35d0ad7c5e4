import fc from "fast-check";
import { logicText, readLogic, writeLogic, type Logic } from "./ownLogic";

const mistake = (text: string, rows: number) => {
  const r = readLogic(text, rows);
  return "mistake" in r ? r.mistake : null;
};
/** The logic said anew, with nothing of ours: by what it comes to for each way its rows may be. */
const holds = (l: Logic, is: readonly boolean[]): boolean => {
  switch (l.k) {
    case "row":
      return is[l.row - 1]!;
    case "not":
      return !holds(l.of, is);
    case "and":
      return l.of.every((x) => holds(x, is));
    case "or":
      return l.of.some((x) => holds(x, is));
  }
};
const table = (rows: number): boolean[][] =>
  Array.from({ length: 2 ** rows }, (_, n) => Array.from({ length: rows }, (_x, i) => ((n >> i) & 1) === 1));

it.each([
  ["1 and (2 or 3)", 3],
  ["(1 or 2) and 3", 3],
  ["not 1 or 2", 2],
  ["not (1 or 2) and not 3", 3],
])("%s is read and written again", (text, rows) => {
  const r = readLogic(text, rows);
  expect("logic" in r && logicText(r.logic)).toBe(text);
});

it("leaves out brackets that say nothing; 'and' binds closer than 'or'", () => {
  const said = (text: string, rows: number) => {
    const r = readLogic(text, rows);
    return "logic" in r ? logicText(r.logic) : r.mistake;
  };
  expect(said("((1) AND 2) or (3)", 3)).toBe("1 and 2 or 3");
  expect(said("1 or (2 and 3)", 3)).toBe("1 or 2 and 3");
});

it.each([
  ["", 1, "Write the numbers"],
  ["1 and", 2, "Something is missing"],
  ["1 2", 2, "“2” cannot stand there"],
  ["(1 or 2", 2, "not closed"],
  ["1 or 2)", 2, "was not opened"],
  ["1 or 4", 3, "no row 4"],
  ["1 or 0", 1, "no row 0"],
  ["1", 2, "Row 2 does not stand in it"],
  ["1 nor 2", 2, "“nor” cannot stand there"],
  ["1 & 2", 2, "“&” cannot stand there"],
  [`${"(".repeat(200)}1`, 1, "deep"],
  [`${"1 or ".repeat(200)}1`, 1, "longer than"],
])("%s of %d rows is refused with what is wrong", (text, rows, said) => {
  expect(mistake(text, rows)).toContain(said);
});

it("means the same after it is written, and to whoever reads it as a programmer would", () => {
  const logic = (rows: number) =>
    fc.letrec<{ l: Logic }>((tie) => ({
      l: fc.oneof(
        { depthSize: "small" },
        fc.integer({ min: 1, max: rows }).map((row): Logic => ({ k: "row", row })),
        tie("l").map((of): Logic => ({ k: "not", of })),
        fc
          .tuple(
            fc.constantFrom("and" as const, "or" as const),
            fc.array(tie("l"), { minLength: 2, maxLength: 3 }),
          )
          .map(([k, of]): Logic => ({ k, of })),
      ),
    })).l;
  fc.assert(
    fc.property(logic(3), (l) => {
      // Every row must stand in it.
      const all: Logic = {
        k: "or",
        of: [l, { k: "row", row: 1 }, { k: "row", row: 2 }, { k: "row", row: 3 }],
      };
      const text = logicText(all);
      if (text.length > 400) return;
      const read = readLogic(text, 3);
      if ("mistake" in read) throw new Error(`${text}: ${read.mistake}`);
      const js = writeLogic(
        all,
        (n) => `is[${n - 1}]`,
        (inner) => `!(${inner})`,
      )
        .replaceAll(" and ", " && ")
        .replaceAll(" or ", " || ");
      const asCode = new Function("is", `return ${js}`) as (is: boolean[]) => boolean;
      for (const is of table(3)) {
        expect([text, holds(read.logic, is)]).toEqual([text, holds(all, is)]);
        expect([js, asCode(is)]).toEqual([js, holds(all, is)]);
      }
    }),
    { endOnFailure: true },
  );
});
