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
  return (
    <>
      <PageHeader
        title="Letters, templates and ladders for all"
        lead="Kept from the Workshop. Each process takes one as it is then, and is told there when the one for all has changed since."
      />
      <div className="grid max-w-3xl gap-8">
        <section aria-labelledby="letters-for-all">
          <h2 id="letters-for-all" className="mb-2">
            Letters
          </h2>
          {letters.value.length === 0 && (
            <p className="text-soft">
              None yet. Who designs a process keeps a letter for all on its Letters sheet, such as the
              organisation&apos;s signature.
            </p>
          )}
          <KeptForAll all={letters.value} what="letter" earlier="earlier words" zone={actor.zone} />
        </section>
        <section aria-labelledby="templates-for-all">
          <h2 id="templates-for-all" className="mb-2">
            Templates
          </h2>
          {templates.value.length === 0 && (
            <p className="text-soft">
              None yet. Who designs a process keeps one for all on its Templates sheet, such as a letterhead.
            </p>
          )}
          <KeptForAll all={templates.value} what="template" earlier="an earlier one" zone={actor.zone} />
        </section>
        <section aria-labelledby="ladders-for-all">
          <h2 id="ladders-for-all" className="mb-2">
            Ladders
          </h2>
          {ladders.value.length === 0 && (
            <p className="text-soft">
              None yet. Who designs a process keeps one for all at the foot of its Route sheet, such as who is
              told when a limit has passed.
            </p>
          )}
          <KeptForAll all={ladders.value} what="ladder" earlier="earlier rungs" zone={actor.zone} />
        </section>
      </div>
    </>
  );
}
