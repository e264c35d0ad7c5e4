import type { Metadata } from "next";
import Link from "next/link";
import { MOST_COUNTED, registerList } from "@/services";
import { Empty, PageHeader } from "@/ui";
import { requireActor } from "@/web";
import { NewRegister } from "./NewRegister";

export const metadata: Metadata = { title: "Registers" };

function countText(count: number | null): string {
  // Whoever has the rights of the office may say who sees it, and does not see it for that.
  if (count === null) return "not seen";
  return count > MOST_COUNTED
    ? `more than ${MOST_COUNTED.toLocaleString("en-IE")}`
    : count.toLocaleString("en-IE");
}

export default async function RegistersPage() {
  const actor = await requireActor("/registers");
  const all = await registerList(actor);
  return (
    <>
      <PageHeader
        title="Registers"
        lead="The records that processes read and write. Each is a real table."
        {...(actor.officeRights ? { action: <NewRegister /> } : {})}
      />
      {all.length === 0 && (
        <Empty title="No registers yet">A register holds typed records, such as objects or borrowers.</Empty>
      )}
      <ul className="border-t border-line">
        {all.map(({ shape, count }) => (
          <li key={shape.key} className="border-b border-line">
            <Link
              href={`/registers/${shape.key}${count === null ? "/rights" : ""}`}
              prefetch={false}
              className="group grid grid-cols-[minmax(0,12rem)_minmax(0,1fr)_5rem] items-baseline gap-x-6 px-1.5 py-2.5 no-underline hover:bg-sheet"
            >
              <span className="font-serif text-lg font-semibold group-hover:underline">{shape.name}</span>
              <span className="text-soft">{shape.purpose}</span>
              <span className="text-right">{countText(count)}</span>
            </Link>
          </li>
        ))}
      </ul>
    </>
  );
}
