import { createHash } from "node:crypto";

/** The same for the same values, in whichever order a program wrote their names. */
const canonical = (value: unknown): string =>
  JSON.stringify(value, (_, v: unknown) =>
    typeof v === "object" && v !== null && !Array.isArray(v)
      ? Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : 1)))
      : v,
  );

/**
 * What an idempotency key stands for: the process and all that was sent. A second start with the key and something
 * else is no second try (draft-ietf-httpapi-idempotency-key-header, 2.7).
 */
export const startHash = (process: string, data: unknown): Buffer =>
  createHash("sha256")
    .update(canonical([process, data]))
    .digest();
