/** What an address says behind its question mark, each once: the first of what stands there more often. */
export const queryOnce = (all: Record<string, string | string[] | undefined>): Record<string, string> =>
  Object.fromEntries(
    Object.entries(all).flatMap(([k, v]) => {
      const one = Array.isArray(v) ? v[0] : v;
      return one === undefined ? [] : [[k, one]];
    }),
  );
