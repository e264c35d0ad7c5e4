const LETTERS = "abcdefghijkmnpqrstuvwxyz23456789";
/** Three letters of one's own: so unlikely to be somebody else's that ids made side by side in two tabs differ. */
const someTag = (): string =>
  [...crypto.getRandomValues(new Uint8Array(3))].map((n) => LETTERS[n % LETTERS.length]).join("");

/**
 * A readable id from a name, not among those taken, and not one that another tab comes to by itself:
 * "return-date-k3f", "return-date-2-k3f".
 */
export function newId(name: string, taken: (id: string) => boolean, tag = someTag()): string {
  const stem =
    name
      .toLowerCase()
      .normalize("NFD")
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-+|-+$/g, "")
      .slice(0, 40) || "x";
  const tagged = (s: string) => (tag === "" ? s : `${s}-${tag}`);
  if (!taken(tagged(stem))) return tagged(stem);
  for (let n = 2; ; n++) if (!taken(tagged(`${stem}-${n}`))) return tagged(`${stem}-${n}`);
}
