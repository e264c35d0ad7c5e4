import type { Metadata } from "next";
import { placesPage } from "@/services";
import { PageHeader } from "@/ui";
import { requireActor } from "@/web";
import { Places } from "./Places";

export const metadata: Metadata = { title: "Departments and sites" };

export default async function PlacesPage() {
  const { departments, sites, keeps } = await placesPage(await requireActor("/office/places"));
  return (
    <>
      <PageHeader
        title="Departments and sites"
        lead="As they stand with people. A new one is there as soon as somebody is in it; renaming takes all its people along, and the duties held for it."
      />
      <div className="grid max-w-5xl gap-x-12 gap-y-8 lg:grid-cols-2">
        <Places kind="department" title="Departments" places={departments} keeps={keeps} />
        <Places kind="site" title="Sites" places={sites} keeps={keeps} />
      </div>
    </>
  );
}
