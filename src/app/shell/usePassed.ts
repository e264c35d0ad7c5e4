"use client";
import { useEffect, useState } from "react";
import type { Passed } from "@/core/form";

const placeOf = (draftId: string): string => `passed ${draftId}`;

/** Reasons given before this page was loaded anew; none where the browser keeps nothing. */
function before(draftId: string): Passed {
  try {
    const kept: unknown = JSON.parse(sessionStorage.getItem(placeOf(draftId)) ?? "{}");
    // Looked at by hand: a library of schemas is as large as half of all formulas, and is on no page else.
    const own = Object.entries(typeof kept === "object" && kept !== null ? kept : {});
    return Object.fromEntries(own.filter((e): e is [string, string] => typeof e[1] === "string"));
  } catch {
    return {};
  }
}

/**
 * Why somebody goes on past checks of a form, kept in this browser tab beside its draft: they are part of nothing until it
 * is sent.
 */
export function usePassed(draftId: string): { passed: Passed; onPass(key: string, why: string): void } {
  const [passed, setPassed] = useState<Passed>({});
  // Once the page has come alive: the server, which draws it first, knows nothing of them.
  useEffect(() => setPassed((p) => ({ ...before(draftId), ...p })), [draftId]);
  const onPass = (key: string, why: string) => {
    const next = { ...passed, [key]: why };
    setPassed(next);
    try {
      sessionStorage.setItem(placeOf(draftId), JSON.stringify(next));
    } catch {
      // A browser that keeps nothing loses them with the page, and nothing else.
    }
  };
  return { passed, onPass };
}
