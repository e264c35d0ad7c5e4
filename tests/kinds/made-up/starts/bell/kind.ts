import { YESNO } from "@/core/expression";
import type { StartBehaviour } from "@/core/kinds";

export const bell: StartBehaviour<"bell"> = {
  says: "somebody rings the bell",
  offer: "the bell ring",
  several: false,
  blank: (id) => ({ id, kind: "bell", rings: "true" }),
  mayStart: (_, asker) => asker.groups.includes("ringers"),
  formulas: (s, walk) => ({
    ...s,
    rings: walk.formula({ place: "rings", says: "whether the bell rings", wants: YESNO }, s.rings),
  }),
  problems: () => undefined,
  words: () => "somebody rings the bell",
};
