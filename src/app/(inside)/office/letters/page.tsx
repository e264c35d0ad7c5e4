import type { Metadata } from "next";
import { keptLetterList } from "@/services";
import { Empty, PageHeader, whenText } from "@/ui";
import { answerOf, requireActor } from "@/web";
import { Missing } from "../../../shell/Missing";
import { TakeAway } from "./TakeAway";

export const metadata: Metadata = { title: "Letters for all" };

export default async function KeptLettersPage() {
  const actor = await requireActor("/office/letters");
  const list = await answerOf(await keptLetterList(actor));
  if (!list.ok)
    return (
      <Missing
        sentence="Letters that all processes use are seen to by those with the rights of the office."
        back={{ href: "/office", name: "Office" }}
      />
    );
  return (
    <>
      <PageHeader
        title="Letters for all"
        lead="Kept from the Workshop. Each process takes a letter as it is then, and is told there when its words have changed since."
      />
      <div className="max-w-3xl">
        {list.value.length === 0 && (
          <Empty title="None yet">
            Who designs a process keeps a letter for all on its Letters sheet, such as the organisation&apos;s
            signature.
          </Empty>
        )}
        {list.value.map((k) => (
          <section
            key={k.id}
            aria-label={k.name}
            className="flex flex-wrap items-start gap-4 border-t border-line py-3"
          >
            <div className="min-w-0 flex-1">
              <h2 className="!text-base break-words">{k.name}</h2>
              <p className="text-soft">
                Version {k.version}, kept {whenText(k.at, actor.zone)}
                {k.by && `, by ${k.by}`}
                {k.from && `, from ${k.from}`}.
              </p>
              <p>
                {k.taken.length === 0 ? (
                  <span className="text-soft">No process has it.</span>
                ) : (
                  <>
                    In{" "}
                    {k.taken.map((t, i) => (
                      <span key={i}>
                        {i > 0 && ", "}
                        {t.name}
                        {t.version < k.version && <span className="text-lichen"> (earlier words)</span>}
                      </span>
                    ))}
                    .
                  </>
                )}
              </p>
            </div>
            <TakeAway id={k.id} name={k.name} />
          </section>
        ))}
      </div>
    </>
  );
}
