/** Where a letter goes. Each part may lack; none is longer than a line of an envelope. */
export interface PostalAddress {
  /** Street, house, floor: up to three lines. */
  lines: string;
  town: string;
  postcode: string;
  country: string;
}
export const ADDRESS_PARTS = ["lines", "town", "postcode", "country"] as const;

/** As it is kept: JSON with its parts in one order; null where all of them are empty. */
export function keptAddress(a: PostalAddress): string | null {
  if (ADDRESS_PARTS.every((p) => a[p].trim() === "")) return null;
  return JSON.stringify(Object.fromEntries(ADDRESS_PARTS.map((p) => [p, a[p]])));
}

/** What is kept as its parts; null for what is no address. */
export function addressFrom(raw: string): PostalAddress | null {
  let read: unknown;
  try {
    read = JSON.parse(raw);
  } catch {
    return null;
  }
  if (typeof read !== "object" || read === null || Array.isArray(read)) return null;
  const of = read as Record<string, unknown>;
  if (Object.keys(of).some((k) => !ADDRESS_PARTS.includes(k as never) || typeof of[k] !== "string"))
    return null;
  const part = (p: keyof PostalAddress) => (Object.hasOwn(of, p) ? (of[p] as string) : "");
  return { lines: part("lines"), town: part("town"), postcode: part("postcode"), country: part("country") };
}

/** In one line, as it stands in a sentence: "12 Quay Street, T12 Y3N8 Cork, Ireland". */
export function addressText(a: PostalAddress): string {
  const place = [a.postcode, a.town].map((t) => t.trim()).filter(Boolean);
  return [...a.lines.split("\n").map((l) => l.trim()), place.join(" "), a.country.trim()]
    .filter(Boolean)
    .join(", ");
}
