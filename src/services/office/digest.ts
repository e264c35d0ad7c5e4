import { createHash } from "node:crypto";

/** What is kept of a token: who reads the database cannot use it. Tokens are random, so a plain hash is enough. */
export const digest = (token: string): Buffer => createHash("sha256").update(token).digest();
