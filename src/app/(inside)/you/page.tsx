import type { Metadata } from "next";
import { chatAccount, newsChosen, ownSessions, personPage, proposalsForMe } from "@/services";
import { PageHeader } from "@/ui";
import { answerOf, requireActor } from "@/web";
import { AwayTimes } from "../../shell/AwayTimes";
import { Asked } from "./Asked";
import { ChatAccount } from "./ChatAccount";
import { News } from "./News";
import { PasswordForm } from "./PasswordForm";
import { Sessions } from "./Sessions";

export const metadata: Metadata = { title: "You" };

export default async function YouPage() {
  const actor = await requireActor("/you");
  const [sessions, asked, news, chat] = await Promise.all([
    ownSessions(actor),
    proposalsForMe(actor),
    newsChosen(actor),
    chatAccount(actor),
  ]);
  const me = await answerOf(await personPage(actor, actor.id));
  return (
    <>
      <PageHeader
        title={actor.name}
        lead={
          me.ok
            ? [me.value.said.jobTitle, me.value.said.department, me.value.said.email]
                .filter(Boolean)
                .join(", ")
            : ""
        }
      />
      <div className="grid grid-cols-[minmax(0,1fr)] gap-x-12 gap-y-9 lg:grid-cols-[minmax(0,1fr)_24rem]">
        <div className="grid min-w-0 grid-cols-[minmax(0,1fr)] content-start gap-9">
          <Asked proposals={asked} />
          <Sessions
            zone={actor.zone}
            sessions={sessions.map((s) => ({
              id: s.id,
              here: s.here,
              how: s.how,
              browser: s.browser,
              address: s.address,
              began: s.created_at,
              seen: s.seen_at,
            }))}
          />
          {chat.ok && chat.value.room !== null && <ChatAccount now={chat.value} />}
          {news.ok && <News now={news.value} zone={actor.zone} />}
          <PasswordForm />
        </div>
        {me.ok && (
          <AwayTimes
            person={actor.id}
            away={me.value.away}
            duties={[...new Set(me.value.duties.map((x) => x.duty))]}
            may
            people={me.value.colleagues}
            whose="You are"
          />
        )}
      </div>
    </>
  );
}
