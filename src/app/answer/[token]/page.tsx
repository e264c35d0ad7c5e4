import type { Metadata } from "next";
import Link from "next/link";
import { redirect } from "next/navigation";
import { answerLink } from "@/services";
import { buttonClass, whenText } from "@/ui";
import { currentActor } from "@/web";
import { AnswerForm } from "./AnswerForm";

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
