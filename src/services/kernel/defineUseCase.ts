import { getPool } from "@/db";
import type { Actor } from "./actor";
import { wellFormed, withoutUnfit } from "@/core/form";
import { noteRefusal } from "../log/noteRefusal";
import { nowMs } from "./clock";
import { loadDirectory, type Directory } from "./directory";
import { fail, Failed, outcome, type Failure, type Outcome } from "./failure";
import { can, type Deed } from "./policy";

/** What a use case gets of its caller: who it is, and the way to ask the policy. */
export interface Call {
  actor: Actor;
  /** Whether the policy allows it. */
  may(deed: Deed): boolean;
  /** Fails unless the policy allows it. */
  must(deed: Deed, otherwise: Failure): void;
  /** The directory, for looking: as it was when who asks was found out. A change reads it in its own transaction. */
  directory(): Promise<Directory>;
  /** Application time, for looking. */
  now(): Promise<number>;
}

const UNFIT: Failure = {
  code: "invalid",
  data: {
    path: "",
    message:
      "A text holds a character that cannot be kept: a null character, or half of one. Type it anew without it.",
  },
};

interface Named {
  /** The deeds it asks the policy about. */
  asks: readonly Deed["action"][];
}
export type UseCase<A extends unknown[], T> = ((actor: Actor, ...args: A) => Promise<Outcome<T>>) & Named;
export type View<A extends unknown[], T> = ((actor: Actor, ...args: A) => Promise<T>) & Named;

function calling<A extends unknown[], T>(
  asks: readonly Deed["action"][],
  run: (call: Call, ...args: A) => Promise<T>,
) {
  /** @param refused is told of each deed the policy says no to */
  return async (actor: Actor, args: A, refused?: (deed: Deed["action"]) => void): Promise<T> => {
    let asked = false;
    const may = (deed: Deed): boolean => {
      if (!asks.includes(deed.action))
        throw new Error(`a use case asks for "${deed.action}" without saying so`);
      asked = true;
      const allowed = can(actor, deed);
      if (!allowed) refused?.(deed.action);
      return allowed;
    };
    const call: Call = {
      actor,
      may,
      must(deed, otherwise) {
        if (!may(deed)) throw new Failed(otherwise);
      },
      directory: () => loadDirectory(getPool(), actor.moment?.directory),
      now: async () => (actor.moment ? Date.now() + actor.moment.clockOffset : nowMs(getPool())),
    };
    const value = await run(call, ...args);
    // Nothing leaves a service on which the policy was not asked.
    if (!asked) throw new Error(`a use case that may ask for ${asks.join(", ")} asked the policy nothing`);
    return value;
  };
}

/**
 * One thing somebody can have done. Expected failures come back as values.
 * @param asks the deeds it asks the policy about; it must ask at least one of them before it gives anything back
 */
export function defineUseCase<A extends unknown[], T>(
  asks: readonly Deed["action"][],
  run: (call: Call, ...args: A) => Promise<T>,
): UseCase<A, T> {
  const go = calling(asks, run);
  const call = async (actor: Actor, ...args: A): Promise<Outcome<T>> => {
    if (!wellFormed(args)) return fail(UNFIT);
    let refused: Deed["action"] | null = null;
    const done = await outcome(() => go(actor, args, (deed) => (refused = deed)));
    if (!done.ok && refused) await noteRefusal(actor, refused, done.failure);
    return done;
  };
  return Object.assign(call, { asks });
}

/** A look that always gives something, if an empty list. */
export function defineView<A extends unknown[], T>(
  asks: readonly Deed["action"][],
  run: (call: Call, ...args: A) => Promise<T>,
): View<A, T> {
  const go = calling(asks, run);
  // A look for something that cannot be is a look for what is left of it.
  const fit = (x: unknown) => (typeof x === "string" ? withoutUnfit(x) : x);
  return Object.assign((actor: Actor, ...args: A) => go(actor, args.map(fit) as A), { asks });
}
