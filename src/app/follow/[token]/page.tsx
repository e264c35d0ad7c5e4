import type { Metadata } from "next";
import Link from "next/link";
import { followed, type Followed } from "@/services";
import { Banner, buttonClass, whenText } from "@/ui";
import { Letterhead } from "../../shell/Letterhead";
import { StagesReached } from "../../shell/StagesReached";
import { ChangesForm } from "./ChangesForm";
import { LettersFollowed } from "./LettersFollowed";
import { QuestionFollowed } from "./QuestionFollowed";
import { SentForm } from "./SentForm";
import { Withdraw } from "./Withdraw";

// Whoever is led on from here must not hand the link on with it.
export const metadata: Metadata = {
  title: { absolute: "Where it stands" },
  referrer: "no-referrer",
  robots: "noindex",
};
export const dynamic = "force-dynamic";

interface Props {
  params: Promise<{ token: string }>;
  searchParams: Promise<{ sent?: string | string[] }>;
}

/** Where somebody outside follows what they sent, as far as its owner lets them, and does what is asked of them. */
export default async function FollowPage({ params, searchParams }: Props) {
  const { token } = await params;
  const page = await followed(token);
  if (page.is === "gone")
    return (
      <Letterhead of="Nothing to follow here">
        <h1 className="mb-2">This link leads nowhere</h1>
        <p>{page.why}</p>
      </Letterhead>
    );
  const sent = (await searchParams).sent === "1";
  return (
    <Letterhead of={page.letterhead}>
      <p className="text-soft">
        {page.number}, sent {whenText(page.startedAt, page.zone)}
      </p>
      <h1 className="mb-3 break-words">{sent ? "Thank you" : page.process}</h1>
      {sent && <SentJustNow page={page} />}
      {page.stages && (
        <StagesReached names={page.stages.names} at={page.stages.at} ended={page.status === "finished"} />
      )}
      <p className={stateText(page) === "" ? "sr-only" : "mb-5 text-lg"} role="status">
        {stateText(page)}
      </p>
      {page.changes && (
        <section aria-labelledby="changes" className="mb-8">
          <h2 id="changes" className="mb-2">
            Please change what you sent
          </h2>
          {page.changes.note && (
            <blockquote className="mb-4 border-l-[3px] border-slate pl-3 break-words whitespace-pre-wrap">
              {page.changes.note}
              {page.changes.by && <footer className="text-sm text-soft">{page.changes.by}</footer>}
            </blockquote>
          )}
          <ChangesForm key={page.changes.seen} token={token} changes={page.changes} />
        </section>
      )}
      {page.questions.length > 0 && (
        <section aria-labelledby="questions" className="mb-8">
          <h2 id="questions" className="mb-2">
            {page.questions.length === 1 ? "A question to you" : "Questions to you"}
          </h2>
          {page.questions.map((q) => (
            <QuestionFollowed key={q.task} token={token} question={q} zone={page.zone} />
          ))}
        </section>
      )}
      <LettersFollowed token={token} letters={page.letters} letterhead={page.letterhead} zone={page.zone} />
      {page.form && (
        <section aria-labelledby="sent">
          <h2 id="sent" className="mb-2">
            What you sent
          </h2>
          <SentForm token={token} source={page.form} />
        </section>
      )}
      {page.mayWithdraw && <Withdraw token={token} number={page.number} />}
    </Letterhead>
  );
}

/** What it is at, in words for somebody who knows nothing of how it is dealt with. */
function stateText({
  status,
  result,
  stages,
  changes,
  questions,
  endedAt,
  zone,
  letterhead,
}: Followed): string {
  const when = endedAt === null ? "" : `, ${whenText(endedAt, zone)}`;
  switch (status) {
    case "finished":
      return `It has come to its end: ${result ?? "done"}${when}.`;
    case "withdrawn":
      return `You have withdrawn it${when}.`;
    case "cancelled":
      return `It was cancelled${when}.`;
    // What holds it up is mended by others; they have been told.
    case "new":
    case "stuck":
    case "under way":
      if (changes || questions.length > 0) return "It waits for you.";
      return stages ? "" : `It is with ${letterhead}. You need do nothing just now.`;
  }
}

function SentJustNow({ page }: { page: Followed }) {
  const { leads, says } = page.sent;
  return (
    <>
      {says.trim() && <p className="mb-4 text-lg break-words whitespace-pre-wrap">{says}</p>}
      <Banner tone="info">
        The number of what you sent is <strong>{page.number}</strong>. You follow it on this page:{" "}
        {page.hears
          ? "a letter with a link to it is on its way to you."
          : "keep its address, for example as a bookmark; nobody can tell it to you later."}
      </Banner>
      {leads && (
        <p className="mb-5">
          {leads.outside ? (
            <a className={buttonClass("main")} href={leads.href} rel="noopener noreferrer">
              Go on to {leads.name}
            </a>
          ) : (
            <Link className={buttonClass("main")} href={leads.href} prefetch={false}>
              Go on with: {leads.name}
            </Link>
          )}
        </p>
      )}
    </>
  );
}
