import type { Metadata } from "next";
import { PageHeader } from "@/ui";
import { requireActor } from "@/web";
import { Missing } from "../../../../shell/Missing";
import { BringIn } from "./BringIn";

export const metadata: Metadata = { title: "Bring in people" };

export default async function ImportPage() {
  const actor = await requireActor("/office/people/import");
  if (!actor.officeRights)
    return (
      <Missing
        sentence="People are brought in by those with the rights of the office."
        back={{ href: "/office", name: "Office" }}
      />
    );
  return (
    <>
      <PageHeader
        title="Bring in a sheet of people"
        lead="Pick a CSV file or paste the rows. Nothing is changed before you have seen what would be. Nobody's account is closed by being left out."
      />
      <BringIn />
    </>
  );
}
