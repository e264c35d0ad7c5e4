import type { Metadata } from "next";
import { newPerson, officePage } from "@/services";
import { PageHeader } from "@/ui";
import { requireActor } from "@/web";
import { Groups } from "./Groups";

export const metadata: Metadata = { title: "Groups" };

export default async function GroupsPage() {
  const actor = await requireActor("/office/groups");
  const { groups, keeps } = await officePage(actor);
  const choices = keeps ? await newPerson(actor) : null;
  return (
    <>
      <PageHeader
        title="Groups"
        lead="People who can be asked together, or may start a process together. A step can ask one of a group, the first who answers, all, or a share of them."
      />
      <Groups groups={groups} people={choices?.ok ? choices.value.choices.people : []} keeps={keeps} />
    </>
  );
}
