/** Kinds of pictures every browser draws; drawings that hold programs are none of them. */
const PICTURES: ReadonlySet<string> = new Set([
  "image/png",
  "image/jpeg",
  "image/gif",
  "image/webp",
  "image/avif",
]);

/** How a file can be looked at in the page, by its media type; null where it can only be saved. */
export function looksLike(type: string): "picture" | "pdf" | null {
  if (PICTURES.has(type)) return "picture";
  return type === "application/pdf" ? "pdf" : null;
}
