import { Download, FolderDown } from "lucide-react";
import Link from "next/link";
import { requestView, type RequestView } from "@/services";
import { Banner, buttonClass, classes, PageHeader, whenText } from "@/ui";
import { answerOf, requireActor } from "@/web";
import { AreaHere } from "../../../shell/areaHere";
import { Conversation } from "../../../shell/Conversation";
import { Earlier, shownOf } from "../../../shell/Earlier";
import { Missing } from "../../../shell/Missing";
import { PrintButton } from "../../../shell/PrintButton";
import { Path } from "../../../shell/Path";
import { RequestState } from "../../../shell/RequestState";
import { StagesReached } from "../../../shell/StagesReached";
import { Trail } from "../../../shell/Trail";
import { RequestForm } from "./RequestForm";
import { Relatives } from "./Relatives";
import { RequestDeeds } from "./RequestDeeds";

export async function generateMetadata({ params }: { params: Promise<{ number: string }> }) {
  return { title: (await params).number };
}

/** Whether there is anything to be saved, in the form or in letters. */
const hasFiles = ({ form, letters }: RequestView): boolean =>
  Object.keys(form.facts.files ?? {}).length > 0 || letters.some((l) => l.files.length > 0);

interface Props {
  params: Promise<{ number: string }>;
  searchParams: Promise<{ trail?: string }>;
}

export default async function RequestPage({ params, searchParams }: Props) {
  const { number } = await params;
  const actor = await requireActor(`/requests/${number}`);
  const page = await answerOf(await requestView(actor, number, shownOf((await searchParams).trail)));
  if (!page.ok) return <Missing sentence={page.sentence} back={{ href: "/ask", name: "Ask" }} />;
  const v = page.value;
  const others = v.mayWatch ? "/progress" : "/desk";
  return (
    <>
      <p className="only-print text-sm">
        {v.number} as {actor.name} sees it, printed {whenText(v.now, actor.zone)}
      </p>
      <AreaHere area={v.requester.id === actor.id ? "/ask" : others} />
      <PageHeader
        above={`${v.number} · ${v.process.name} ${v.process.version} · asked by ${v.requester.says}, ${whenText(v.startedAt, actor.zone)}`}
        title={v.title}
        state={
          <RequestState status={v.status} result={v.result?.name ?? null} tone={v.result?.tone ?? null} />
        }
        action={
          <>
            {v.myTask && (
              <Link className={buttonClass("main")} href={`/desk/${v.number}/${v.myTask}`} prefetch={false}>
                Answer
              </Link>
            )}
            {v.mayAskAgain && (
              <Link
                className={buttonClass("plain")}
                href={`/ask/${v.process.key}?like=${v.number}`}
                prefetch={false}
              >
                Ask again
              </Link>
            )}
            <PrintButton />
            <a
              className={`${buttonClass("quiet")} no-print`}
              href={`/api/requests/${v.number}/pdf`}
              download={`${v.number}.pdf`}
            >
              <Download size={15} aria-hidden /> PDF
            </a>
            {hasFiles(v) && (
              <a
                className={`${buttonClass("quiet")} no-print`}
                href={`/api/requests/${v.number}/files`}
                download={`${v.number} files.zip`}
                title="All files that you may open, as one ZIP"
              >
                <FolderDown size={15} aria-hidden /> Files
              </a>
            )}
            <RequestDeeds
              number={v.number}
              zone={actor.zone}
              mayWithdraw={v.mayWithdraw}
              mayCancel={v.mayWatch && v.endedAt === null && !v.mayWithdraw}
              stuck={v.mayWatch ? v.stuck : []}
              waiting={v.mayWatch ? v.waiting : []}
              asleep={v.mayWatch ? v.asleep : []}
              links={v.links}
            />
          </>
        }
      />
      {v.stages && <StagesReached {...v.stages} ended={v.endedAt !== null} />}
      {v.stuck.map((s) => (
        <Banner key={s.token} tone="bad">
          {s.sentence}
        </Banner>
      ))}
      <div className="grid gap-x-10 gap-y-8 lg:grid-cols-[minmax(0,1fr)_22rem]">
        <div className="min-w-0 max-w-4xl">
          <RequestForm source={v.form} />
          <Conversation
            number={v.number}
            person={actor.id}
            letters={v.letters}
            write={v.mayWrite}
            zone={actor.zone}
          />
        </div>
        <aside className="min-w-0">
          <h2 className="mb-2">Path</h2>
          {v.limits.map((l) => (
            <p
              key={`${l.of} ${l.due}`}
              className={classes("mb-2 text-sm", l.due <= v.now ? "font-medium text-brick" : "text-soft")}
            >
              {l.whole ? "All of it" : l.of}: {l.due <= v.now ? "was to be done by" : "until"}{" "}
              {whenText(l.due, actor.zone)}
            </p>
          ))}
          <Earlier n={v.earlier.stops} what="steps" href="?trail=all" />
          <Path stops={v.path} waiting={v.waiting} zone={actor.zone} ended={v.endedAt !== null} />
          <Relatives by={v.startedBy} started={v.started} />
          <h2 className="mt-7 mb-2">Trail</h2>
          <div aria-live="polite">
            <Trail lines={v.trail} zone={actor.zone} />
          </div>
          <Earlier n={v.earlier.lines} what="lines" href="?trail=all" />
        </aside>
      </div>
    </>
  );
}
