import { randomUUID } from "node:crypto";
import { redirect } from "next/navigation";
import { askPage } from "@/services";
import { PageHeader } from "@/ui";
import { answerOf, requireActor } from "@/web";
import { Missing } from "../../../shell/Missing";
import { AskForm } from "./AskForm";

export default async function AskProcessPage({
  params,
  searchParams,
}: {
  params: Promise<{ process: string }>;
  searchParams: Promise<{ draft?: string }>;
}) {
  const { process } = await params;
  const actor = await requireActor(`/ask/${process}`);
  const { draft } = await searchParams;
  // The draft's id stands in the address, so that a reload finds what was typed.
  if (!draft || !/^[0-9a-f-]{36}$/.test(draft))
    redirect(`/ask/${encodeURIComponent(process)}?draft=${randomUUID()}`);
  const page = await answerOf(await askPage(actor, process, draft));
  if (!page.ok) return <Missing sentence={page.sentence} back={{ href: "/ask", name: "Ask" }} />;
  const { process: p, form, restoredAt } = page.value;
  return (
    <div className="max-w-4xl">
      <PageHeader title={p.name} lead={p.purpose} />
      <AskForm key={draft} process={p.key} draftId={draft} source={form} restored={restoredAt !== null} />
    </div>
  );
}
