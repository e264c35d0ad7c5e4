import { useMemo, useState } from "react";
import type { FactsData } from "@/core/form";
import type { InputContext } from "@/forms";
import { lookUpAction } from "../../../actions/requests";

/** What a single cell is filled in with: of a record that is picked here only what it is called is wanted. */
export function useCellContext(facts: FactsData): InputContext {
  const [learnt, setLearnt] = useState<FactsData["records"]>({});
  return useMemo(() => {
    const keys = new Set([...Object.keys(facts.records), ...Object.keys(learnt)]);
    const records = Object.fromEntries(
      [...keys].map((key) => [key, { ...facts.records[key], ...learnt[key] }]),
    );
    return {
      facts: { ...facts, records },
      offers: {},
      // Records hold no signatures.
      zone: "UTC",
      signed: {},
      lookUp: async (register, search) => {
        const found = await lookUpAction(register, search);
        return found.map(({ id, title }) => ({ id, title, record: { id, title } }));
      },
      offered: null,
      learn: (register, record) =>
        setLearnt((l) => ({ ...l, [register]: { ...l[register], [record.id]: record } })),
      learnFile: () => undefined,
      busy: () => undefined,
    };
  }, [facts, learnt]);
}
