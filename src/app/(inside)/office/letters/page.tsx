import type { Metadata } from "next";
import { keptLadderList, keptLetterList, keptTemplateList } from "@/services";
import { PageHeader } from "@/ui";
import { answerOf, requireActor } from "@/web";
import { Missing } from "../../../shell/Missing";
import { KeptForAll } from "./KeptForAll";

export const metadata: Metadata = { title: "Letters, templates and ladders for all" };

export default async function KeptForAllPage() {
  const actor = await requireActor("/office/letters");
  const letters = await answerOf(await keptLetterList(actor));
  const templates = await answerOf(await keptTemplateList(actor));
  const ladders = await answerOf(await keptLadderList(actor));
  if (!letters.ok || !templates.ok || !ladders.ok)
    return (
      <Missing
        sentence="Letters, templates and ladders that all processes use are seen to by those with the rights of the office."
        back={{ href: "/office", name: "Office" }}
      />
    );
  const sorts = [
    {
      what: "letter",
      title: "Letters",
      all: letters.value,
      earlier: "earlier words",
      none: "Who designs a process keeps a letter for all on its Letters sheet, such as the organisation’s signature.",
    },
    {
      what: "template",
      title: "Templates",
      all: templates.value,
      earlier: "an earlier one",
      none: "Who designs a process keeps one for all on its Templates sheet, such as a letterhead.",
    },
    {
      what: "ladder",
      title: "Ladders",
      all: ladders.value,
      earlier: "earlier rungs",
      none: "Who designs a process keeps one for all at the foot of its Route sheet, such as who is told when a limit has passed.",
    },
  ] as const;
  return (
    <>
      <PageHeader
        title="Letters, templates and ladders for all"
        lead="Kept from the Workshop. Each process takes one as it is then, and is told there when the one for all has changed since."
      />
      <div className="grid max-w-3xl gap-8">
        {sorts.map((sort) => (
          <section key={sort.what} aria-labelledby={`${sort.what}s-for-all`}>
            <h2 id={`${sort.what}s-for-all`} className="mb-2">
              {sort.title}
            </h2>
            {sort.all.length === 0 && <p className="text-soft">None yet. {sort.none}</p>}
            <KeptForAll all={sort.all} what={sort.what} earlier={sort.earlier} zone={actor.zone} />
          </section>
        ))}
      </div>
    </>
  );
}
