import type { Metadata } from "next";
import { newPerson } from "@/services";
import { PageHeader } from "@/ui";
import { answerOf, requireActor } from "@/web";
import { Missing } from "../../../../shell/Missing";
import { PersonForm } from "../PersonForm";

export const metadata: Metadata = { title: "Add a person" };

export default async function NewPersonPage() {
  const r = await answerOf(await newPerson(await requireActor("/office/people/new")));
  if (!r.ok) return <Missing sentence={r.sentence} back={{ href: "/office", name: "Office" }} />;
  return (
    <>
      <PageHeader
        title="Add a person"
        lead="They sign in by a link you make for them afterwards, or through your organisation where that is set up."
      />
      <PersonForm id={null} said={r.value.said} choices={r.value.choices} />
    </>
  );
}
