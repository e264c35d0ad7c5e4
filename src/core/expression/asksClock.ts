import { childNodes, type Node } from "./ast";

const CLOCK = new Set(["today", "now"]);

/** Whether a formula itself asks what time it is, however deep inside it. */
export const asksClock = (n: Node): boolean =>
  (n.k === "call" && CLOCK.has(n.fn)) || childNodes(n).some(asksClock);
