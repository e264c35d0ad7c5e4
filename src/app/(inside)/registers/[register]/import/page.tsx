import type { Metadata } from "next";
import Link from "next/link";
import { registerPage, sheetsOf } from "@/services";
import { PageHeader } from "@/ui";
import { answerOf, requireActor } from "@/web";
import { Missing } from "../../../../shell/Missing";
import { sheetState } from "./sheetState";
import { GiveSheet } from "./GiveSheet";

export const metadata: Metadata = { title: "Bring in a sheet" };

const NOTHING = { search: "", filters: [], sort: [], offset: 0, limit: 1 };

export default async function BringInPage({ params }: { params: Promise<{ register: string }> }) {
  const { register } = await params;
  const actor = await requireActor(`/registers/${register}/import`);
  const found = await answerOf(await registerPage(actor, register, NOTHING));
  const back = { href: `/registers/${register}`, name: "the list" };
  if (!found.ok)
    return <Missing sentence={found.sentence} back={{ href: "/registers", name: "Registers" }} />;
  const { shape, may } = found.value;
  if (!may.add && !may.change)
    return <Missing sentence={`You may neither add nor change ${shape.name}.`} back={back} />;
  const earlier = await answerOf(await sheetsOf(actor, register));
  const filled = shape.columns.filter((c) => may.fill.includes(c.id) && !c.worked);
  return (
    <>
      <PageHeader
        above={
          <Link className="link" href={`/registers/${register}`}>
            {shape.name}
          </Link>
        }
        title={`Bring a sheet into ${shape.name}`}
        lead="A CSV or XLSX file, or its rows. It is read first, and you see what would become of each row; nothing is written before you say so."
      />
      <div className="grid gap-x-12 gap-y-6 lg:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
        <GiveSheet
          register={register}
          leadsTo={`/registers/${register}/import`}
          example={filled.slice(0, 4).map((c) => c.name)}
        />
        {earlier.ok && earlier.value.length > 0 && (
          <section aria-labelledby="earlier">
            <h2 id="earlier" className="mb-2">
              Your sheets
            </h2>
            <ul className="border-t border-line">
              {earlier.value.map((s) => (
                <li key={s.id} className="flex flex-wrap items-baseline gap-x-3 border-b border-line py-1.5">
                  <Link
                    className="link min-w-0 break-words"
                    href={`/registers/${register}/import/${s.id}`}
                    prefetch={false}
                  >
                    {s.name}
                  </Link>
                  <span className="text-soft">{sheetState(s)}</span>
                </li>
              ))}
            </ul>
          </section>
        )}
      </div>
    </>
  );
}
