/** A key made from a name: small letters, figures and dashes, told apart by a number. */
export function keyFor(name: string, taken: (key: string) => boolean, otherwise: string): string {
  const base =
    name
      .toLowerCase()
      .normalize("NFKD")
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-+|-+$/g, "")
      .slice(0, 50) || otherwise;
  for (let n = 1; ; n++) {
    const key = n === 1 ? base : `${base}-${n}`;
    if (!taken(key)) return key;
  }
}
