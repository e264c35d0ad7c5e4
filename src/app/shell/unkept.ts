/** What somebody typed that has not reached the server, in their browser until it has. */
export interface Unkept {
  value: unknown;
  /** When the server had last kept of the same, as it was typed over; null where it had nothing. */
  over: number | null;
  at: number;
}

const PREFIX = "unkept ";
/** What was asked about and not settled, where more is typed meanwhile. */
const ASKED = `${PREFIX}asked `;
const OLDEST_MS = 30 * 86_400_000;

const isUnkept = (x: unknown): x is Unkept => {
  const u = x as Partial<Record<keyof Unkept, unknown>> | null;
  return (
    typeof u === "object" &&
    u !== null &&
    typeof u.at === "number" &&
    (u.over === null || typeof u.over === "number")
  );
};

function read(key: string): Unkept | null {
  try {
    const is: unknown = JSON.parse(localStorage.getItem(key) ?? "null");
    return isUnkept(is) ? is : null;
  } catch {
    return null;
  }
}

/** What a place holds that never reached the server: as it was typed last, or what is asked about. */
export const unkeptAt = (place: string, what: "typed" | "asked"): Unkept | null =>
  read((what === "asked" ? ASKED : PREFIX) + place);

export function holdUnkept(place: string, is: Unkept): void {
  try {
    localStorage.setItem(PREFIX + place, JSON.stringify(is));
  } catch {
    // A browser that keeps nothing, or has no room, loses it with the page, and nothing else.
  }
}

/** Puts aside what is asked about, so that what is typed meanwhile does not take its place. */
export function askAboutUnkept(place: string, is: Unkept): void {
  try {
    localStorage.setItem(ASKED + place, JSON.stringify(is));
    localStorage.removeItem(PREFIX + place);
  } catch {
    // It stays where it was.
  }
}

export function forgetUnkept(place: string, what: "typed" | "asked"): void {
  try {
    localStorage.removeItem((what === "asked" ? ASKED : PREFIX) + place);
  } catch {
    // Nothing was kept.
  }
}

/** Forgets what nobody came back for; all of it where somebody signs out, because others may use the same browser. */
export function sweepUnkept(now: number, all = false): void {
  try {
    for (const key of Object.keys(localStorage))
      if (key.startsWith(PREFIX) && (all || now - (read(key)?.at ?? 0) > OLDEST_MS))
        localStorage.removeItem(key);
  } catch {
    // Nothing was kept.
  }
}

/** Whether two values hold the same, in whatever order they name it; what is empty is as good as not there. */
export function sameTyped(a: unknown, b: unknown): boolean {
  const ordered = (x: unknown): unknown => {
    if (Array.isArray(x)) return x.map(ordered);
    if (typeof x !== "object" || x === null) return x;
    const there = Object.entries(x).filter(([, v]) => v !== null && v !== undefined && v !== "");
    return Object.fromEntries(there.sort(([k], [l]) => (k < l ? -1 : 1)).map(([k, v]) => [k, ordered(v)]));
  };
  return JSON.stringify(ordered(a)) === JSON.stringify(ordered(b));
}
