import { ANY, templateParts } from "@/core/expression";
import { saysItsPlace, type AfterSending } from "@/core/form";
import {
  audienceWords,
  mayBegin,
  sayEmptyAudience,
  type FormulaWalk,
  type Say,
  type StartBehaviour,
} from "@/core/kinds";

type Leads = NonNullable<AfterSending["leads"]>;

function mapSent(sent: AfterSending, walk: FormulaWalk): AfterSending {
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

function sentProblems({ leads }: AfterSending, say: Say) {
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

/** Somebody signed in fills in the form and sends it. */
export const form: StartBehaviour<"form"> = {
  says: "somebody fills in the form",
  offer: "somebody fill in the form",
  several: false,
  blank: (id) => ({ id, kind: "form", who: { by: "everybody" } }),
  mayStart: (s, asker) => mayBegin(s.who, asker),
  formulas: (s, walk) => (s.sent ? { ...s, sent: mapSent(s.sent, walk) } : s),
  problems(s, { groups, say }) {
    sayEmptyAudience(s.who, groups, say);
    if (s.sent) sentProblems(s.sent, say);
  },
  words: (s) => `${audienceWords(s.who)} fills in the form and sends it`,
  afterSending: (s) => s.sent ?? null,
};
