import type { Failure } from "@/services";

/**
 * The sign-in page that says why the provider did not help. Only a word from a list goes into the address: whatever
 * sentence stood there, somebody else could have written it.
 */
export const signInAfter = (f: Failure): string =>
  f.code === "provider-refused" ? `/sign-in?why=${encodeURIComponent(f.data.why)}` : "/sign-in";
