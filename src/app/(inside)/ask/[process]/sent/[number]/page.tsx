import Link from "next/link";
import { sentPage } from "@/services";
import { buttonClass, PageHeader } from "@/ui";
import { answerOf, requireActor } from "@/web";
import { Missing } from "../../../../../shell/Missing";

interface Props {
  params: Promise<{ process: string; number: string }>;
}

export async function generateMetadata({ params }: Props) {
  return { title: `Sent: ${(await params).number}` };
}

/** What somebody sees once they have sent a form whose owner has something to say then. */
export default async function SentPage({ params }: Props) {
  const { process, number } = await params;
  const actor = await requireActor(`/ask/${process}/sent/${number}`);
  const page = await answerOf(await sentPage(actor, number));
  if (!page.ok) return <Missing sentence={page.sentence} back={{ href: "/ask", name: "Ask" }} />;
  const { title, says, leads, process: name } = page.value;
  return (
    <div className="max-w-4xl">
      <PageHeader above={`${number} · ${name}`} title="Sent" lead={title} />
      {says.trim() && <p className="mb-6 max-w-2xl text-lg break-words whitespace-pre-wrap">{says}</p>}
      <div className="flex flex-wrap items-center gap-3">
        {leads &&
          (leads.outside ? (
            <a className={buttonClass("main")} href={leads.href} rel="noopener noreferrer">
              Go on to {leads.name}
            </a>
          ) : (
            <Link className={buttonClass("main")} href={leads.href} prefetch={false}>
              Go on with: {leads.name}
            </Link>
          ))}
        <Link className={buttonClass(leads ? "plain" : "main")} href={`/requests/${number}`} prefetch={false}>
          See the request
        </Link>
      </div>
    </div>
  );
}
