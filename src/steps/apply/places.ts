/** Where the formulas of a table stand. */
export const inputPlace = (input: string): string => `input ${input}`;
export const testPlace = (rule: string, input: string): string => `test ${rule} ${input}`;
export const valuePlace = (rule: string, output: string): string => `value ${rule} ${output}`;
/** In the place of a rule's id; no id has a space. */
export const OTHERWISE = "by default";
