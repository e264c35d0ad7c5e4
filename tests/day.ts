/** The moment the tests take place at, by the application's clock (`npm test -- --on DATE`). */
export const ON = new Date(process.env["COBBLE_ON"] ?? "2026-03-03T10:00:00Z");

/** The day some days after the day of the tests, as forms and formulas write it. */
export const day = (after: number): string =>
  new Date(ON.getTime() + after * 86_400_000).toISOString().slice(0, 10);
