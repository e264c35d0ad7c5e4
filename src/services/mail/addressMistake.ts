import { isEmailAddress } from "@/core/form";

/** What is wrong with an address, in a sentence; null where nothing is. */
export function addressMistake(text: string): string | null {
  const t = text.trim();
  if (t === "") return "There is no address.";
  if (isEmailAddress(t)) return null;
  return `“${t.slice(0, 80)}” is no address; one reads like registry@example.org.`;
}
