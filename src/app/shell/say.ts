const EVENT = "cobble-say";

export interface Said {
  sentence: string;
  tone: "good" | "bad";
}

/** Says something at the edge of the page for a moment. What shows it is loaded when there is something to say. */
export const say = (sentence: string, tone: Said["tone"] = "good"): void =>
  void window.dispatchEvent(new CustomEvent<Said>(EVENT, { detail: { sentence, tone } }));

export function onSaid(hear: (said: Said) => void): () => void {
  const listener = (e: Event) => hear((e as CustomEvent<Said>).detail);
  window.addEventListener(EVENT, listener);
  return () => window.removeEventListener(EVENT, listener);
}
