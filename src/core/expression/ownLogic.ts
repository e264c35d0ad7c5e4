/** How rows of a condition go together in one's own way: "1 and (2 or not 3)". Rows count from 1. */
export type Logic =
  { k: "row"; row: number } | { k: "and" | "or"; of: readonly Logic[] } | { k: "not"; of: Logic };

/** Letters, and brackets in brackets, that somebody writes with a purpose. */
const [LONGEST, DEEPEST] = [400, 30];

/**
 * Reads how rows go together. "not" binds closest, then "and", then "or"; each row must stand in it.
 * @param rows how many there are
 * @returns the logic, or a sentence that says what is wrong with it
 */
export function readLogic(text: string, rows: number): { logic: Logic } | { mistake: string } {
  if (text.length > LONGEST) return { mistake: `It is longer than ${LONGEST} characters. Write it shorter.` };
  const words = text.toLowerCase().match(/\d+|[a-z]+|[()]|\S/g) ?? [];
  const used = new Set<number>();
  let at = 0;
  let deep = 0;
  const wrong = (said: string): never => {
    throw new Mistake(said);
  };
  const single = (): Logic => {
    const word = words[at++];
    if (word === undefined) return wrong(at === 1 ? EXAMPLE : `Something is missing at its end. ${EXAMPLE}`);
    if (word === "not" || word === "(") {
      if (++deep > DEEPEST) wrong(`Its brackets stand more than ${DEEPEST} deep. Write it flatter.`);
      const inner = word === "not" ? single() : several("or");
      deep--;
      if (word === "not") return { k: "not", of: inner };
      if (words[at++] !== ")") wrong("A bracket is not closed.");
      return inner;
    }
    if (!/^\d+$/.test(word)) return wrong(`“${word}” cannot stand there. ${EXAMPLE}`);
    const row = Number(word);
    if (row < 1 || row > rows) wrong(`There is no row ${word}; rows go from 1 to ${rows}.`);
    used.add(row);
    return { k: "row", row };
  };
  const several = (k: "and" | "or"): Logic => {
    const one = k === "or" ? () => several("and") : single;
    const of = [one()];
    while (words[at] === k) {
      at++;
      of.push(one());
    }
    return of.length === 1 ? of[0]! : { k, of };
  };
  try {
    const logic = several("or");
    if (words[at] === ")") wrong("A bracket is closed that was not opened.");
    if (at < words.length)
      wrong(`“${words[at]}” cannot stand there: “and” or “or” goes between rows. ${EXAMPLE}`);
    for (let row = 1; row <= rows; row++)
      if (!used.has(row)) wrong(`Row ${row} does not stand in it. Put it in, or remove the row.`);
    return { logic };
  } catch (e) {
    if (e instanceof Mistake) return { mistake: e.message };
    throw e;
  }
}
const EXAMPLE = "Write the numbers of rows with and, or, not and brackets, for example: 1 and (2 or 3).";
class Mistake extends Error {}

/** The logic with something in the place of each row; brackets only where they are needed. */
export function writeLogic(
  logic: Logic,
  row: (row: number) => string,
  not: (inner: string, bare: boolean) => string,
): string {
  const write = (l: Logic, inside: "and" | "or" | "not" | null): string => {
    switch (l.k) {
      case "row":
        return row(l.row);
      case "not":
        return not(write(l.of, "not"), l.of.k === "row" || l.of.k === "not");
      case "and":
      case "or": {
        const text = l.of.map((x) => write(x, l.k)).join(` ${l.k} `);
        return l.k === "or" && inside === "and" ? `(${text})` : text;
      }
    }
  };
  return write(logic, null);
}

/** As it is shown and typed. */
export const logicText = (logic: Logic): string =>
  writeLogic(logic, String, (inner, bare) => (bare ? `not ${inner}` : `not (${inner})`));
