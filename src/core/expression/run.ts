import type { CallSite } from "./functions";
import { addNote, OutOfFuel } from "./meter";
import type { FormulaProblem } from "./problem";
import type { Surroundings } from "./surroundings";
import type { FunctionValue, Value } from "./values";

/** Names visible to a formula: a lookup, so that a form can give values it works out on demand. */
export interface Names {
  get(name: string): Value | undefined;
}

export interface Env {
  names: Names;
  around: Surroundings;
  /** Steps left; shared by everything evaluated for one purpose, so that work is bounded. */
  fuel: { left: number };
  /** Where given, parts that come to nothing leave their reason here. Costs nothing where it is absent. */
  notes?: FormulaProblem[];
}

/** About a quarter of a second. */
export const DEFAULT_FUEL = 1_250_000;
export const MAX_LIST = 100_000;
export { MAX_TEXT } from "./functions/define";
const MAX_CALLS = 400;

export { OutOfFuel } from "./meter";
export function environment(names: Names, around: Surroundings, fuel = { left: DEFAULT_FUEL }): Env {
  return { names, around, fuel };
}

const NOWHERE = { from: 0, to: 0 };

/**
 * One evaluation: what closures share while it runs. Built-in functions see it as their call site, and closures as
 * their state, so that a short formula makes one object.
 */
export class Run implements CallSite, State {
  readonly run = this;
  /** The place being called, for reasons. */
  at: { from: number; to: number } = NOWHERE;
  private calls = 0;
  constructor(
    readonly env: Env,
    readonly locals: Value[],
  ) {}

  get now() {
    return this.env.around.now;
  }
  get managerOf() {
    return this.env.around.managerOf;
  }
  get holdersOf() {
    return this.env.around.holdersOf;
  }
  get working() {
    return this.env.around.working;
  }

  spend(n: number): void {
    if ((this.env.fuel.left -= n) < 0) throw new OutOfFuel();
  }
  say(reason: string): null {
    return this.note(this.at, reason);
  }
  /** Leaves the reason why a part comes to nothing. "was-empty" is none of failure: nothing in, nothing out. */
  wasEmpty(reason: string): null {
    return this.note(this.at, reason, "was-empty");
  }
  note(at: { from: number; to: number }, message: string, code: "no-value" | "was-empty" = "no-value"): null {
    if (this.env.notes) addNote(this.env.notes, { code, from: at.from, to: at.to, message });
    return null;
  }
  call(fn: FunctionValue, args: readonly Value[]): Value {
    this.spend(2 + args.length);
    if (++this.calls > MAX_CALLS) throw new OutOfFuel();
    const at = this.at;
    try {
      return fn.call(args);
    } finally {
      this.calls--;
      this.at = at;
    }
  }
}

export interface State {
  run: Run;
  locals: Value[];
}
export type Code = (s: State) => Value;
