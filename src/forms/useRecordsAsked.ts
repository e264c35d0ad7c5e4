"use client";
import { useEffect, useEffectEvent, useRef, useState } from "react";
import type { FactsData, FormData, FormResult } from "@/core/form";
import type { FormAsk } from "./inputContext";

type Known = NonNullable<FactsData["asked"]>;

/** Milliseconds somebody must have stopped typing for before the registers are looked in. */
const PAUSE = 400;

/**
 * What checks ask of records, asked of the server once somebody has stopped typing. What was asked is not asked again:
 * the server holds each check once more when the form is sent.
 */
export function useRecordsAsked(ask: FormAsk | undefined) {
  const [known, setKnown] = useState<Known>({});
  const tried = useRef(new Set<string>());
  return { known, setKnown, tried: tried.current, ask };
}

/** Goes and asks what of the questions of a form is not known yet. */
export function useAsking(
  { known, setKnown, tried, ask }: ReturnType<typeof useRecordsAsked>,
  { asked }: Pick<FormResult, "asked">,
  data: FormData,
) {
  const open = asked.filter((a) => !Object.hasOwn(known, a.key)).map((a) => a.key);
  const what = open.join("\n");
  const go = useEffectEvent(async () => {
    if (!ask || tried.has(what)) return;
    tried.add(what);
    const answer = await ask(data, { ask: "records" }).catch(() => null);
    // Without the server nothing is known; it is asked again with whatever is typed next.
    if (!answer) tried.delete(what);
    else if (Object.keys(answer.records).length > 0) setKnown((k) => ({ ...k, ...answer.records }));
  });
  useEffect(() => {
    if (what === "") return;
    const timer = setTimeout(() => void go(), PAUSE);
    return () => clearTimeout(timer);
  }, [what]);
}
