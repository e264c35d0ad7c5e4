import { stepKind, type Kinds } from "@/core/kinds";
import type { Step } from "@/core/route";

/** Where a list's steps lead when it is a plain way on: shown at its head instead of as rows of their own. */
export type WayOn = { kind: "on" } | { kind: "to"; to: string } | { kind: "ends"; ends: string };

export function wayOn(steps: readonly Step[], kinds: Kinds): WayOn | null {
  const [only] = steps;
  if (!only) return { kind: "on" };
  if (steps.length > 1) return null;
  const exit = stepKind(kinds, only).exit(only);
  if (!exit) return null;
  return "to" in exit ? { kind: "to", to: exit.to } : { kind: "ends", ends: exit.ends };
}
