import { createHash } from "node:crypto";
import { canonicalJson } from "../kernel/canonicalJson";

/**
 * What an idempotency key stands for: the process and all that was sent. A second start with the key and something
 * else is no second try (draft-ietf-httpapi-idempotency-key-header, 2.7).
 */
export const startHash = (process: string, data: unknown): Buffer =>
  createHash("sha256")
    .update(canonicalJson([process, data]))
    .digest();
