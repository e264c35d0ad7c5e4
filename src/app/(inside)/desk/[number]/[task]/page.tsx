import Link from "next/link";
import { lateTask, leftText, taskView, type TaskView } from "@/services";
import { Banner, Mark, PageHeader, whenText } from "@/ui";
import { answerOf, requireActor } from "@/web";
import { Conversation } from "../../../../shell/Conversation";
import { Earlier, shownOf } from "../../../../shell/Earlier";
import { Missing } from "../../../../shell/Missing";
import { Path } from "../../../../shell/Path";
import { Trail } from "../../../../shell/Trail";
import { RequestForm } from "../../../requests/[number]/RequestForm";
import { AnswerForm } from "./AnswerForm";
import { Late } from "./Late";
import { Paper } from "../../../../shell/Paper";
import { Questions } from "./Questions";

type Purpose = TaskView["task"]["purpose"];
const HEADING: Record<Purpose, string> = {
  decide: "Your answer",
  complete: "When you are done",
  changes: "When you are done",
  question: "What you say",
  advice: "What you say",
};
const BESIDE: Record<Purpose, string> = {
  decide: "",
  complete: "",
  changes: ": you are asked for changes",
  question: ": you are asked something",
  advice: ": you are asked for advice",
};

interface Props {
  params: Promise<{ number: string; task: string }>;
  searchParams: Promise<{ trail?: string }>;
}

export default async function TaskPage({ params, searchParams }: Props) {
  const { number, task } = await params;
  const actor = await requireActor(`/desk/${number}/${task}`);
  const page = await answerOf(await taskView(actor, number, task, shownOf((await searchParams).trail)));
  if (!page.ok) {
    const late = await answerOf(await lateTask(actor, number, task));
    return late.ok ? (
      <Late task={late.value} sentence={page.sentence} zone={actor.zone} />
    ) : (
      <Missing title="Not waiting for you" sentence={page.sentence} back={{ href: "/desk", name: "Desk" }} />
    );
  }
  const v = page.value;
  const left = v.task.due === null ? null : await leftText(actor, v.task.due);
  return (
    <div className="grid gap-x-10 gap-y-8 xl:grid-cols-[minmax(0,1fr)_21rem]">
      <div className="min-w-0 max-w-4xl">
        <PageHeader
          above={
            <>
              <Link className="link" href="/desk">
                Desk
              </Link>{" "}
              ·{" "}
              <Link className="link" href={`/requests/${number}`} prefetch={false}>
                {number}
              </Link>{" "}
              · {v.request.process.name}
            </>
          }
          title={v.request.title}
          lead={
            <>
              {v.task.about && <span className="block font-medium text-ink">{v.task.about}</span>}
              {`${v.task.step}${BESIDE[v.task.purpose]}. Asked by ${v.request.requester.says}${v.task.coversFor ? `; you answer for ${v.task.coversFor}` : ""}.`}
            </>
          }
          state={
            v.task.due !== null &&
            left && (
              <Mark tone={left.tone === "calm" ? "plain" : left.tone}>
                {whenText(v.task.due, actor.zone)}, {left.text}
              </Mark>
            )
          }
        />
        {v.asked && (
          <Banner tone="soon">
            {v.asked.by} asks: <span className="font-medium whitespace-pre-wrap">{v.asked.text}</span>
            <span className="block text-sm">
              Nothing is decided by what you say.
              {v.asked.until !== null && ` They have until ${whenText(v.asked.until, actor.zone)}.`}
            </span>
          </Banner>
        )}
        {v.backTo !== null && (
          <Banner tone="info">
            {v.backTo} wants this back: say what you would answer. Nothing is decided by it; then {v.backTo}{" "}
            has it again.
          </Banner>
        )}
        {v.proposed && (
          <Banner tone="info">
            {v.proposed.by} would answer: <span className="font-medium">{v.proposed.label}</span>
            {v.proposed.note && (
              <>
                {". "}
                <span className="whitespace-pre-wrap">{v.proposed.note}</span>
              </>
            )}
          </Banner>
        )}
        {v.still !== null && (
          <Banner tone="info">
            The limit stands still since {whenText(v.still, actor.zone)}, until what was asked is answered.
          </Banner>
        )}
        {v.wants && (
          <Banner tone="soon">
            {v.wants.by ?? "The ladder"} sent this back
            {v.wants.note ? (
              <>
                : <span className="font-medium whitespace-pre-wrap">{v.wants.note}</span>
              </>
            ) : (
              " for changes, without saying which."
            )}
          </Banner>
        )}
        {v.over && (
          <Banner tone="info">
            This {v.over} has ended. What you answer stands on its trail and changes nothing of it.
          </Banner>
        )}
        <Questions asked={v.questions} zone={actor.zone} />
        {v.paper && <Paper file={v.paper} at={`/api/files/${v.paper.id}`} />}
        <AnswerForm
          key={`${task}-${v.task.taken}`}
          number={number}
          task={v.task}
          answers={v.answers}
          source={v.form}
          seen={v.seen}
          meanwhile={v.meanwhile}
          note={v.note}
          draftId={v.draftId}
          draftAt={v.draftAt}
          person={actor.id}
          question={HEADING[v.task.purpose]}
          signs={v.paper !== null}
          mentions={v.mentions}
          {...(v.asked ? {} : { asker: v.asker })}
        />
        {v.caller && (
          <section aria-labelledby="caller" className="mt-8">
            <h2 id="caller" className="mb-1">
              {v.caller.name}
            </h2>
            <p className="mb-3 text-soft">
              What this is about, as it stands there. Nothing of it is changed here.
            </p>
            <RequestForm source={v.caller.form} />
          </section>
        )}
        <Conversation
          number={v.request.number}
          person={actor.id}
          letters={v.request.letters}
          write={v.request.mayWrite}
          zone={actor.zone}
        />
      </div>
      <aside className="min-w-0">
        <h2 className="mb-2">Path</h2>
        <Earlier n={v.request.earlier.stops} what="steps" href="?trail=all" />
        <Path
          stops={v.request.path}
          waiting={v.request.waiting}
          zone={actor.zone}
          ended={v.request.endedAt !== null}
        />
        <h2 className="mt-7 mb-2">Trail</h2>
        <Trail lines={v.request.trail} zone={actor.zone} />
        <Earlier n={v.request.earlier.lines} what="lines" href="?trail=all" />
      </aside>
    </div>
  );
}
