import { outsiderOf, type RequestState } from "@/core/engine";
import type { FactsData } from "@/core/form";

/** How people are called in a sample: those outside by what its values say of them. */
export const calledIn =
  (people: FactsData["people"], of: Pick<RequestState, "outsiders"> | null) =>
  (id: string): string => {
    const outside = of && outsiderOf(of, id);
    return people[id]?.name ?? (outside ? outside.name || outside.email : id);
  };
