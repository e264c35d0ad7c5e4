import { z } from "zod";
import { escape } from "./look";

/** What a stand-in that takes documents can be told to do wrong. Shares are parts of all calls, from 0 to 1. */
export const FAULTS = z.strictObject({
  /** Milliseconds before it answers. */
  slow: z.number().min(0).max(60_000).default(0),
  /** Not taken just now (503). */
  refuse: z.number().min(0).max(1).default(0),
  /** Taken, and the connection lost before that is said. */
  loseAfter: z.number().min(0).max(1).default(0),
  /** Done twice, whatever its key. */
  twice: z.number().min(0).max(1).default(0),
});
export type Faults = z.infer<typeof FAULTS>;

/** @param says what each is called here; what is left out cannot be set */
export function faultsForm(t: Faults, says: Partial<Record<keyof Faults, string>>): string {
  const inputs = (Object.entries(says) as [keyof Faults, string][]).map(([name, words]) =>
    name === "slow"
      ? `<label>${escape(words)} <input type="number" min="0" max="60000" name="slow" value="${t.slow}"></label>`
      : `<label>${escape(words)} <span class="soft">(of 100)</span> <input type="number" min="0" max="100" name="${name}" value="${Math.round(t[name] * 100)}"></label>`,
  );
  return `<form method="post" action="/faults"><p>It works well unless it is told otherwise.</p>${inputs.join("")}<button>Set</button></form>`;
}
export function faultsFrom(form: URLSearchParams): Partial<Faults> {
  const share = (n: string) => Number(form.get(n) || 0) / 100;
  return {
    slow: Number(form.get("slow") || 0),
    refuse: share("refuse"),
    loseAfter: share("loseAfter"),
    twice: share("twice"),
  };
}
