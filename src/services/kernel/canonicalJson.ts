/** One text for one value, whatever order the properties of its objects were written in. */
export const canonicalJson = (value: unknown): string =>
  JSON.stringify(value, (_, v: unknown) =>
    typeof v === "object" && v !== null && !Array.isArray(v)
      ? Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : 1)))
      : v,
  );
