/** The closest known name, when close enough to be what was meant, or the only one that begins so. */
export function nearest(name: string, among: readonly string[]): string | null {
  let best: string | null = null;
  let least = Math.max(2, Math.floor(name.length / 3)) + 1;
  for (const other of new Set(among)) {
    const d =
      other.toLowerCase() === name.toLowerCase()
        ? 0
        : distance(name.toLowerCase(), other.toLowerCase(), least);
    if (d < least) [best, least] = [other, d];
  }
  if (best !== null || name.length < 3) return best;
  const longer = [...new Set(among)].filter((other) => other.toLowerCase().startsWith(name.toLowerCase()));
  return longer.length === 1 ? longer[0]! : null;
}

function distance(a: string, b: string, limit: number): number {
  if (Math.abs(a.length - b.length) >= limit) return limit;
  let row = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++)
      next[j] = Math.min(row[j]! + 1, next[j - 1]! + 1, row[j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1));
    row = next;
  }
  return row[b.length]!;
}
