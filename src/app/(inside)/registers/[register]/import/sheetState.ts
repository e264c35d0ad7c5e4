import type { SheetPage } from "@/services";

type Sheet = SheetPage["sheet"];
const figure = (n: number): string => n.toLocaleString("en-IE");

/** How far a sheet is, in a few words. */
export function sheetState(s: Sheet): string {
  switch (s.status) {
    case "reading":
      return "being read";
    case "naming":
      return "waits for you to say what its columns are";
    case "trying":
      return `being tried, ${figure(s.done)} of ${figure(s.total)} rows`;
    case "tried":
      return "waits for you to bring it in";
    case "writing":
      return "being brought in";
    case "done":
      return "brought in";
    case "stopped":
      return "stopped";
    case "failed":
      return "could not be brought in";
  }
}

const OUTCOMES = [
  ["added", (n: number) => `${figure(n)} ${n === 1 ? "is" : "are"} added`],
  ["changed", (n: number) => `${figure(n)} changed`],
  ["same", (n: number) => `${figure(n)} ${n === 1 ? "is" : "are"} so already`],
  ["left", (n: number) => `${figure(n)} left as they are`],
  ["refused", (n: number) => `${figure(n)} refused`],
] as const;

/** "8 are added, 120 changed, 3 refused": what rows come to, without what none does. */
export function countsInWords(counts: Sheet["counts"]): string {
  const told = OUTCOMES.flatMap(([k, say]) => (counts[k] ? [say(counts[k])] : []));
  return told.length > 0 ? told.join(", ") : "nothing changes";
}
