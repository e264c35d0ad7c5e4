import { randomUUID } from "node:crypto";
import Link from "next/link";
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
  searchParams: Promise<{ draft?: string; start?: string; record?: string }>;
}) {
  const { process } = await params;
  const { draft, start, record } = await searchParams;
  const press = start && record ? { start, record } : null;
  const pressed = press
    ? `start=${encodeURIComponent(press.start)}&record=${encodeURIComponent(press.record)}`
    : "";
  const actor = await requireActor(`/ask/${process}${pressed && `?${pressed}`}`);
  // The draft's id stands in the address, so that a reload finds what was typed.
  if (!draft || !/^[0-9a-f-]{36}$/.test(draft))
    redirect(`/ask/${encodeURIComponent(process)}?draft=${randomUUID()}${pressed && `&${pressed}`}`);
  const page = await answerOf(await askPage(actor, process, draft, press));
  if (!page.ok) return <Missing sentence={page.sentence} back={{ href: "/ask", name: "Ask" }} />;
  const { process: p, form, restoredAt, press: on } = page.value;
  return (
    <div className="max-w-4xl">
      <PageHeader title={p.name} lead={p.purpose} />
      {on && (
        <p className="mb-4 text-soft">
          {on.says}:{" "}
          <Link className="link" href={`/registers/${on.register}/${on.id}`} prefetch={false}>
            {on.title}
          </Link>
        </p>
      )}
      <AskForm
        key={draft}
        process={p.key}
        draftId={draft}
        source={form}
        restored={restoredAt !== null}
        press={press}
        back={on ? `/registers/${on.register}/${on.id}` : "/ask"}
      />
    </div>
  );
}
