import type { RecordPlace } from "@/db";

/** A place in a list as it stands in an address. */
export const placeText = (place: RecordPlace | null): string | null =>
  place && Buffer.from(JSON.stringify([...place.values, place.id])).toString("base64url");

/** What stands in an address as a place; null for anything else. Whether it fits the list's order is not looked at. */
export function readPlace(text: string): RecordPlace | null {
  let parts: unknown;
  try {
    parts = JSON.parse(Buffer.from(text, "base64url").toString());
  } catch {
    return null;
  }
  if (!Array.isArray(parts)) return null;
  const id: unknown = parts.at(-1);
  const values = parts.slice(0, -1).filter((v): v is string | null => v === null || typeof v === "string");
  return typeof id === "string" && values.length === parts.length - 1 ? { values, id } : null;
}
