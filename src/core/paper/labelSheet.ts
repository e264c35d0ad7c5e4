/** Labels to be printed on sheets that are parted into equal ones. */
export interface LabelSheet extends LabelGrid {
  /** What the document is called; it stands on none of them. */
  title: string;
  /** BCP 47. */
  language: string;
  labels: readonly Label[];
}
export interface Label {
  heading: string;
  lines: readonly string[];
}

/** How a sheet of A4 is parted. */
export interface LabelGrid {
  across: number;
  down: number;
  /** Labels of the first sheet that are used already. */
  skip: number;
  /** Millimetres around all of them. */
  margin: number;
}

export const MOST_LABELS = 5000;
const MOST: Readonly<Record<keyof LabelGrid, readonly [number, number]>> = {
  across: [1, 6],
  down: [1, 20],
  skip: [0, 119],
  margin: [0, 30],
};
const CALLED: Readonly<Record<keyof LabelGrid, string>> = {
  across: "Labels across",
  down: "Labels down",
  skip: "Labels used already",
  margin: "The margin in millimetres",
};

/** What is wrong with how a sheet is to be parted, in words; null where nothing is. */
export function gridMistake(g: LabelGrid): string | null {
  for (const key of ["across", "down", "skip", "margin"] as const) {
    const [least, most] = MOST[key];
    if (!Number.isInteger(g[key]) || g[key] < least || g[key] > most)
      return `${CALLED[key]} is a whole number from ${least} to ${most}, for example ${Math.max(least, Math.round(most / 2))}.`;
  }
  return g.skip >= g.across * g.down
    ? `A sheet has ${g.across * g.down} labels; of those at most ${g.across * g.down - 1} can be used already.`
    : null;
}

/** Where the nth label stands, each counted from 0. */
export function labelPlace(nth: number, { across, down, skip }: LabelGrid) {
  const at = nth + skip;
  const onSheet = at % (across * down);
  return {
    sheet: Math.floor(at / (across * down)),
    row: Math.floor(onSheet / across),
    column: onSheet % across,
  };
}

/** How many sheets so many labels take. */
export const sheetsOf = (labels: number, g: LabelGrid): number =>
  labels === 0 ? 0 : labelPlace(labels - 1, g).sheet + 1;
