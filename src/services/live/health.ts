import { getPool, whyUnavailable, type Unavailable } from "@/db";
import { isFull } from "../kernel/fullness";
import { UNAVAILABLE } from "../kernel/sentence";

/** How the database is; where it does not do all it should, a sentence for whoever waits. */
export type Health = { ok: true } | { ok: false; why: Unavailable; sentence: string };

/** An answer this old is as good as a new one: everybody who looks at once asks once. */
const FRESH_MS = 1_000;
let last: { at: number; health: Promise<Health> } | null = null;

export function healthOf(): Promise<Health> {
  const now = performance.now();
  if (!last || now - last.at > FRESH_MS) last = { at: now, health: look() };
  return last.health;
}

async function look(): Promise<Health> {
  const not = (why: Unavailable): Health => ({ ok: false, why, sentence: UNAVAILABLE[why] });
  try {
    const { rows } = await getPool().query<{ only: string }>(
      "select current_setting('transaction_read_only') as only from setting limit 1",
    );
    if (rows[0]?.only === "on") return not("read-only");
    return isFull() ? not("full") : { ok: true };
  } catch (e) {
    return not(whyUnavailable(e) ?? "unreachable");
  }
}
