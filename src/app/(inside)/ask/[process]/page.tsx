import { randomUUID } from "node:crypto";
import Link from "next/link";
import { redirect } from "next/navigation";
import { askPage } from "@/services";
import { Banner, PageHeader } from "@/ui";
import { answerOf, queryOnce, requireActor } from "@/web";
import { Missing } from "../../../shell/Missing";
import { AskForm } from "./AskForm";

export default async function AskProcessPage({
  params,
  searchParams,
}: {
  params: Promise<{ process: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const { process } = await params;
  const { draft, start, record, like, ...others } = queryOnce(await searchParams);
  // Whatever else the address says is filled in, where the form lets one.
  const link = Object.entries(others);
  const asLink = new URLSearchParams([...link, ...(like ? [["like", like]] : [])]).toString();
  const press = start && record ? { start, record } : null;
  const pressed = press
    ? `start=${encodeURIComponent(press.start)}&record=${encodeURIComponent(press.record)}`
    : "";
  const query = [pressed, asLink].filter(Boolean).join("&");
  const actor = await requireActor(`/ask/${process}${query && `?${query}`}`);
  // The draft's id stands in the address, so that a reload finds what was typed.
  if (!draft || !/^[0-9a-f-]{36}$/.test(draft))
    redirect(
      `/ask/${encodeURIComponent(process)}?draft=${randomUUID()}${pressed && `&${pressed}`}${asLink && `&${asLink}`}`,
    );
  const page = await answerOf(
    await askPage(actor, process, draft, press, {
      link: Object.fromEntries(link),
      ...(like ? { like } : {}),
    }),
  );
  if (!page.ok) return <Missing sentence={page.sentence} back={{ href: "/ask", name: "Ask" }} />;
  const { process: p, form, restoredAt, press: on, next, said, like: again, saysAfter } = page.value;
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
      {again && (
        <p className="mb-4 text-soft">
          Filled in as it was in{" "}
          <Link className="link" href={`/requests/${again}`} prefetch={false}>
            {again}
          </Link>
          ; change what is different this time.
        </p>
      )}
      {said.length > 0 && <Banner tone="info">{said.join(" ")}</Banner>}
      <AskForm
        key={draft}
        process={p.key}
        draftId={draft}
        source={form}
        restoredAt={restoredAt}
        person={actor.id}
        press={press}
        next={next}
        saysAfter={saysAfter}
        back={on ? `/registers/${on.register}/${on.id}` : "/ask"}
      />
    </div>
  );
}
