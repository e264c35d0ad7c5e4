import type { FormulaProblem } from "./problem";

/** Thrown inside and caught by evaluate(): the work asked for is more than a formula may do. */
export class OutOfFuel extends Error {}

/** Thrown by evaluate() to its caller's caller: the time given for all formulas together is over, and nothing is to be kept. */
export class TooHeavy extends Error {}

/** What an evaluation is held to, and where it leaves the reasons for which parts came to nothing. */
export interface Meter {
  fuel: { left: number };
  notes?: FormulaProblem[];
}
let current: Meter | null = null;

/**
 * Sets the evaluation that is under way; gives the one before, to be put back. Structural work (comparing, walking
 * nested lists) is taken from its allowance: lists that hold one another twice at each level are small in memory and
 * endless to walk, so that every walk must be counted, however deep it stands from the formula that asked for it.
 */
export function meterBy(meter: Meter | null): Meter | null {
  const before = current;
  current = meter;
  return before;
}

/** Takes steps from the allowance of the formula being evaluated; nothing outside of one. */
export function spend(steps: number): void {
  if (current !== null && (current.fuel.left -= steps) < 0) throw new OutOfFuel();
}

/**
 * Steps of what takes far longer than a step (about a fifth of a microsecond), as measured with 34 digits. Counted work
 * alone decides what a formula comes to, so that every machine agrees.
 */
export const COST = {
  division: 30,
  wholePower: 100,
  power: 2500,
  exponential: 900,
  root: 200,
  moment: 190,
  counted: 1,
  countedDate: 35,
  decimal: 20,
  member: 5,
  compared: 6,
  filtered: 10,
  digit: 2,
  entry: 6,
  group: 20,
} as const;

const MAX_NOTES = 50;
const weight = (n: FormulaProblem): number => {
  if (n.code === "circle" || n.code === "unread") return 2;
  return n.code === "was-empty" ? 0 : 1;
};
/** Leaves a reason among others, each once. */
export function addNote(notes: FormulaProblem[], note: FormulaProblem): void {
  if (notes.some((n) => n.from === note.from && n.message === note.message)) return;
  if (notes.length < MAX_NOTES) notes.push(note);
  // Reasons that decide something are never lost behind many that do not.
  else if (!notes.some((n) => weight(n) >= weight(note))) notes[notes.length - 1] = note;
}

/**
 * Tells the formula under way that a value it reads could not be worked out, which is not the same as empty.
 * @param code "circle" where that is because the value is being worked out from this very formula, "unread" where it may
 *   be there and was not fetched
 */
export function noteUnclear(message: string, code: "unclear" | "circle" | "unread"): void {
  if (current?.notes) addNote(current.notes, { code, from: 0, to: 0, message });
}
