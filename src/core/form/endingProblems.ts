import type { Field } from "./field";
import type { SayOfField } from "./fieldBehaviour";

/** What is wrong with the kinds of files a field takes. */
export function endingProblems(f: Pick<Field, "options">, say: SayOfField): void {
  const odd = f.options?.find((o) => !/^\.?[a-z0-9]{1,10}$/i.test(o));
  if (odd !== undefined)
    say(
      "error",
      "bad-ending",
      `Kinds of files are named by their ending, for example pdf, jpg; "${odd}" is none.`,
      "options",
    );
}
