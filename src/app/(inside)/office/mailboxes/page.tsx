import type { Metadata } from "next";
import { mailboxList } from "@/services";
import { PageHeader } from "@/ui";
import { answerOf, requireActor } from "@/web";
import { Missing } from "../../../shell/Missing";
import { Mailboxes } from "./Mailboxes";

export const metadata: Metadata = { title: "Mailboxes" };

export default async function MailboxesPage() {
  const actor = await requireActor("/office/mailboxes");
  const list = await answerOf(await mailboxList(actor));
  if (!list.ok)
    return (
      <Missing
        sentence="Mailboxes are seen to by those with the rights of the office."
        back={{ href: "/office", name: "Office" }}
      />
    );
  return (
    <>
      <PageHeader
        title="Mailboxes"
        lead="Addresses that processes write from. Replies come back to them, and go to the request they answer."
      />
      <Mailboxes boxes={list.value} zone={actor.zone} />
    </>
  );
}
