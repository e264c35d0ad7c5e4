import { ANY, templateParts } from "../expression";
import { saysItsPlace, type AfterSending } from "../form";
import type { FormulaWalk } from "./places";
import type { Say } from "./say";

type Leads = NonNullable<AfterSending["leads"]>;

/** What comes after a form, with each of its texts and formulas handed to the walk. */
export function mapSent(sent: AfterSending, walk: FormulaWalk): AfterSending {
  const { says, leads } = sent;
  return {
    ...(says === undefined
      ? {}
      : {
          says: walk.template(
            { place: "sent says", says: "what is read once it is sent", reads: "form" },
            says,
          ),
        }),
    ...(leads === undefined ? {} : { leads: mapLeads(leads, walk) }),
  };
}

function mapLeads(leads: Leads, walk: FormulaWalk): Leads {
  if (leads.to === "address") {
    const spot = {
      place: "sent address",
      says: "the address one is led to once it is sent",
      reads: "form",
    } as const;
    return { ...leads, address: walk.template(spot, leads.address) };
  }
  const values = leads.values.map((v) => ({
    ...v,
    value: walk.formula(
      {
        place: `sent value ${v.name}`,
        says: `what “${v.name}” of the next form begins with`,
        wants: ANY,
        reads: "form",
      },
      v.value,
    ),
  }));
  return { ...leads, values };
}

/** What is wrong with what comes after a form. */
export function sentProblems({ leads }: AfterSending, say: Say) {
  if (leads?.to === "form" && !leads.process)
    say("error", "no-form", "Say which form they go on with once it is sent.", "sent process");
  for (const v of leads?.to === "form" ? leads.values : [])
    if (!v.value.trim())
      say("error", "no-value", `Say what “${v.name}” of the next form begins with.`, `sent value ${v.name}`);
  if (leads?.to !== "address") return;
  const parts = templateParts(leads.address.trim());
  const [first] = parts;
  const before = first && "text" in first ? first.text : "";
  if (!saysItsPlace(before, parts.length > 1))
    say(
      "error",
      "no-address",
      "Where they are led is a web address, written out up to the “/” behind the name of its place, for example https://quillhaven.example/thanks?for={Request.number}.",
      "sent address",
    );
}
