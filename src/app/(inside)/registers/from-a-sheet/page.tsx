import type { Metadata } from "next";
import Link from "next/link";
import { PageHeader } from "@/ui";
import { requireActor } from "@/web";
import { Missing } from "../../../shell/Missing";
import { GiveSheet } from "../[register]/import/GiveSheet";

export const metadata: Metadata = { title: "A register from a sheet" };

export default async function FromASheetPage() {
  const actor = await requireActor("/registers/from-a-sheet");
  if (!actor.officeRights)
    return (
      <Missing
        sentence="Registers are made by those with the rights of the office."
        back={{ href: "/registers", name: "Registers" }}
      />
    );
  return (
    <>
      <PageHeader
        above={
          <Link className="link" href="/registers">
            Registers
          </Link>
        }
        title="A register from a sheet"
        lead="A CSV or XLSX file, or its rows. It is read first; then you say what its columns are called and what they hold."
      />
      <div className="max-w-3xl">
        <GiveSheet
          register={null}
          example={["Name", "Acquired", "Value"]}
          leadsTo="/registers/from-a-sheet"
        />
      </div>
    </>
  );
}
