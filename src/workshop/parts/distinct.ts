/** Texts as somebody lists them: trimmed, without empty ones, each once. */
export const distinct = (texts: readonly string[]): string[] => [
  ...new Set(texts.map((t) => t.trim()).filter(Boolean)),
];
