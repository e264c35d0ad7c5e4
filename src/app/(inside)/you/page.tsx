import type { Metadata } from "next";
import { newsWanted, ownSessions, personPage, proposalsForMe } from "@/services";
import { PageHeader } from "@/ui";
import { answerOf, requireActor } from "@/web";
import { AwayTimes } from "../../shell/AwayTimes";
import { Asked } from "./Asked";
import { News } from "./News";
import { PasswordForm } from "./PasswordForm";
import { Sessions } from "./Sessions";

export const metadata: Metadata = { title: "You" };

export default async function YouPage() {
  const actor = await requireActor("/you");
  const [sessions, asked, news] = await Promise.all([
    ownSessions(actor),
    proposalsForMe(actor),
    newsWanted(actor),
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
      <div className="grid gap-x-12 gap-y-9 lg:grid-cols-[minmax(0,1fr)_24rem]">
        <div className="grid min-w-0 content-start gap-9">
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
          <News kinds={news} />
          <PasswordForm />
        </div>
        {me.ok && (
          <AwayTimes
            person={actor.id}
            away={me.value.away}
            may
            people={me.value.colleagues}
            whose="You are"
          />
        )}
      </div>
    </>
  );
}
