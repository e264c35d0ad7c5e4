import type { Metadata } from "next";
import Link from "next/link";
import { workshopList, type WorkshopRow } from "@/services";
import { dayText, Empty, Mark, PageHeader } from "@/ui";
import { requireActor } from "@/web";
import { NewProcess } from "./NewProcess";

export const metadata: Metadata = { title: "Workshop" };

export default async function WorkshopPage() {
  const actor = await requireActor("/workshop");
  const list = await workshopList(actor);
  return (
    <>
      <PageHeader
        title="Workshop"
        lead="Processes and procedures you may design. What is live stays as it is until you release a draft."
        action={actor.officeRights && <NewProcess like={named(list.filter((p) => !p.procedure))} />}
      />
      {list.length === 0 ? (
        <Empty title="No process is yours to design">
          Its owners can add you on the About sheet of a process; people with office rights can make new ones.
        </Empty>
      ) : (
        <>
          <Listing list={list.filter((p) => !p.procedure)} zone={actor.zone} />
          <section aria-labelledby="procedures" className="mt-9">
            <div className="mb-2 flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
              <div>
                <h2 id="procedures">Procedures</h2>
                <p className="max-w-[64ch] text-soft">
                  Steps written once, that processes hand to: what is handed in and back is said on the form
                  sheet.
                </p>
              </div>
              {actor.officeRights && <NewProcess procedure like={named(list.filter((p) => p.procedure))} />}
            </div>
            {list.some((p) => p.procedure) ? (
              <Listing list={list.filter((p) => p.procedure)} zone={actor.zone} />
            ) : (
              <p className="text-soft">None yet.</p>
            )}
          </section>
        </>
      )}
    </>
  );
}

const named = (list: readonly WorkshopRow[]) => list.map(({ key, name }) => ({ key, name }));

const usedWords = (n: number): string => {
  if (n === 0) return "nothing hands to it";
  return n === 1 ? "one process hands to it" : `${n} processes hand to it`;
};

function Listing({ list, zone }: { list: readonly WorkshopRow[]; zone: string }) {
  return (
    <ul className="border-t border-line">
      {list.map((p) => (
        <li key={p.key} className="border-b border-line">
          <Link
            href={`/workshop/${p.key}/route`}
            prefetch={false}
            className="group grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-6 px-1.5 py-3 no-underline hover:bg-sheet md:grid-cols-[minmax(0,1fr)_15rem_13rem]"
          >
            <span>
              <span className="font-serif text-lg font-semibold group-hover:underline">{p.name}</span>
              <span className="block max-w-[64ch] text-soft">
                {p.purpose || "Its purpose is not written yet."}
              </span>
            </span>
            <span className="text-sm text-soft max-md:hidden">
              Owned by {p.owner_names.join(", ")}
              <br />
              {p.procedure ? usedWords(p.used_by) : `${p.under_way} under way`}
              {p.stuck > 0 && (
                <>
                  , <span className="text-brick">{p.stuck} stuck</span>
                </>
              )}
            </span>
            <span className="text-sm">
              {p.version ? <Mark tone="agree">{p.version} live</Mark> : <Mark>not released</Mark>}{" "}
              {p.draft_differs && p.version && <Mark tone="info">draft differs</Mark>}
              <span className="mt-0.5 block text-soft">changed {dayText(p.changed_at, zone)}</span>
            </span>
          </Link>
        </li>
      ))}
    </ul>
  );
}
