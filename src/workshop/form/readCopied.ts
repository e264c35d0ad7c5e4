import type { Field } from "@/core/form";

/** Fields one paste brings at most. */
const MOST = 500;

/**
 * Copied fields, held against the schema of what is stored: a clipboard holds what anybody put there. Null for what is
 * none. The schemas are loaded with the first paste.
 */
export async function readCopied(text: string): Promise<Field[] | null> {
  const { field } = await import("@/contracts");
  let given: unknown;
  try {
    given = JSON.parse(text);
  } catch {
    return null;
  }
  const read = field.array().min(1).max(MOST).safeParse(given);
  return read.success ? read.data : null;
}
