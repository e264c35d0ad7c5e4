import type { Metadata } from "next";
import Link from "next/link";
import { redirect } from "next/navigation";
import { answerLink, askedOutside } from "@/services";
import { buttonClass, whenText } from "@/ui";
import { currentActor } from "@/web";
import { Letterhead } from "../../shell/Letterhead";
import { Paper } from "../../shell/Paper";
import { AnswerForm } from "./AnswerForm";
import { AskedForm } from "./AskedForm";

export const metadata: Metadata = { title: "Your answer", referrer: "no-referrer", robots: "noindex" };
export const dynamic = "force-dynamic";

interface Props {
  params: Promise<{ token: string }>;
  searchParams: Promise<{ as?: string | string[] }>;
}

/** Reached by a link in a mail. Looking at it does nothing: it says what would happen, and waits for a press. */
export default async function AnswerPage({ params, searchParams }: Props) {
  const { token } = await params;
  const { as } = await searchParams;
  const asked = await askedOutside(token);
  if (asked !== null) return <Outside token={token} asked={asked} />;
  const viewer = await currentActor();
  const link = await answerLink(token, viewer);
  if (link.is === "sign in") {
    const here = `/answer/${token}${typeof as === "string" ? `?as=${encodeURIComponent(as)}` : ""}`;
    redirect(`/sign-in?from=${encodeURIComponent(here)}`);
  }
  return (
    <main className="mx-auto max-w-xl px-5 py-8">
      <p className="mb-6 font-serif text-2xl font-bold">Cobble Step</p>
      {link.is === "open" && (
        <>
          <p className="text-soft">
            {link.number} · {link.process}
            {link.about && ` · ${link.about}`}
          </p>
          <h1 className="mb-1 break-words">{link.title}</h1>
          <p className="mb-4 text-soft">
            {link.step}: {link.name} is asked
            {link.due !== null && `, until ${whenText(link.due, link.zone)}`}.
          </p>
          {link.text.trim() !== "" && (
            <p className="mb-5 border-l-2 border-line-strong pl-3 break-words whitespace-pre-wrap">
              {link.text}
            </p>
          )}
          <AnswerForm token={token} answers={link.answers} first={typeof as === "string" ? as : null} />
        </>
      )}
      {link.is === "somebody else's" && (
        <Closed
          title="This link is not yours"
          why={`It was sent to ${link.name}, and you are signed in as ${viewer?.name ?? "somebody else"}.`}
        />
      )}
      {link.is === "gone" && <Closed title="Nothing to answer here" why={link.why} />}
    </main>
  );
}

/** For somebody who does not work here: what they are asked, and nothing of Cobble Step around it. */
function Outside({
  token,
  asked,
}: {
  token: string;
  asked: NonNullable<Awaited<ReturnType<typeof askedOutside>>>;
}) {
  if (asked.is === "gone")
    return (
      <Letterhead of="Nothing to answer here">
        <h1 className="mb-2">This link leads nowhere any more</h1>
        <p>{asked.why}</p>
      </Letterhead>
    );
  return (
    <Letterhead of={asked.letterhead}>
      <p className="text-soft">
        {asked.number} · {asked.process}
        {asked.about && ` · ${asked.about}`}
      </p>
      <h1 className="mb-1 break-words">{asked.step}</h1>
      <p className="mb-4 text-soft">
        {asked.name} is asked{asked.due !== null && `, until ${whenText(asked.due, asked.zone)}`}.
      </p>
      {asked.text.trim() !== "" && (
        <p className="mb-5 border-l-2 border-line-strong pl-3 break-words whitespace-pre-wrap">
          {asked.text}
        </p>
      )}
      {asked.paper && (
        <Paper file={asked.paper} at={`/api/follow/${token}/files/${encodeURIComponent(asked.paper.id)}`} />
      )}
      <AskedForm key={asked.seen} token={token} asked={asked} />
    </Letterhead>
  );
}

function Closed({ title, why }: { title: string; why: string }) {
  return (
    <>
      <h1 className="mb-2">{title}</h1>
      <p className="mb-5">{why}</p>
      <Link className={buttonClass("plain")} href="/desk" prefetch={false}>
        Your desk
      </Link>
    </>
  );
}
