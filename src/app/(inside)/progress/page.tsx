import type { Metadata } from "next";
import Link from "next/link";
import { mailNotOut, mailOfNone, MOST_IN_VIEW, ownedProcesses, progress, progressCounts } from "@/services";
import { classes, dayText, Empty, Mark, PageHeader, SPARE, Table, whenText } from "@/ui";
import { pageNumber, requireActor } from "@/web";
import { MailOfNone } from "./MailOfNone";
import { MailNotOut } from "./MailNotOut";
import { Pager } from "../../shell/Pager";
import { RequestState } from "../../shell/RequestState";
import { SearchBox } from "../../shell/SearchBox";

export const metadata: Metadata = { title: "Progress" };
const PAGE = 40;
const VIEWS = [
  ["open", "Under way"],
  ["late", "Past the limit"],
  ["stuck", "Stuck"],
  ["ended", "Ended"],
] as const;

export default async function ProgressPage({
  searchParams,
}: {
  searchParams: Promise<{ view?: string; process?: string; q?: string; page?: string }>;
}) {
  const actor = await requireActor("/progress");
  const q = await searchParams;
  const view = VIEWS.find(([v]) => v === q.view)?.[0] ?? "open";
  const page = pageNumber(q.page);
  const mine = await ownedProcesses(actor);
  const notOut = await mailNotOut(actor);
  const ofNone = await mailOfNone(actor);
  const counts = await progressCounts(actor, q.process ?? null);
  const { rows, total, now } = await progress(actor, {
    state: view,
    ...(q.process ? { process: q.process } : {}),
    search: q.q ?? "",
    offset: (page - 1) * PAGE,
    limit: PAGE,
  });
  const href = (change: Record<string, string>) =>
    `/progress?${new URLSearchParams({ view, ...(q.process ? { process: q.process } : {}), ...(q.q ? { q: q.q } : {}), ...change })}`;
  return (
    <>
      <PageHeader title="Progress" lead="Every request of the processes you own." />
      {mine.length === 0 ? (
        <Empty title="You own no process">
          Its owners see all requests of a process here, and mend those that are stuck.
        </Empty>
      ) : (
        <>
          {ofNone.ok && <MailOfNone mails={ofNone.value} zone={actor.zone} />}
          {notOut.ok && <MailNotOut mails={notOut.value} zone={actor.zone} />}
          <div className="mb-3 flex flex-wrap items-center gap-x-6 gap-y-2">
            <nav aria-label="Views" className="flex flex-wrap gap-4">
              {VIEWS.map(([v, name]) => (
                <Link
                  key={v}
                  href={href({ view: v, page: "1" })}
                  aria-current={v === view ? "page" : undefined}
                  className={classes(
                    "py-1 no-underline",
                    v === view ? "border-b-2 border-moss font-medium" : "text-soft hover:text-ink",
                  )}
                >
                  {name}
                  {v !== "ended" && (
                    <span
                      className={classes(
                        "ml-1.5 tabular-nums",
                        counts[v] > 0 && v !== "open" ? "font-medium text-brick" : "text-soft",
                      )}
                    >
                      {counts[v] > MOST_IN_VIEW ? `${MOST_IN_VIEW.toLocaleString("en-IE")}+` : counts[v]}
                    </span>
                  )}
                </Link>
              ))}
            </nav>
            <SearchBox
              label="Search number or title"
              value={q.q ?? ""}
              path="/progress"
              params={{ view, ...(q.process ? { process: q.process } : {}) }}
            />
            <nav aria-label="Processes" className="flex flex-wrap gap-3 text-sm">
              <Link
                href={`/progress?view=${view}`}
                className={q.process ? "link text-soft" : "font-medium no-underline"}
              >
                all processes
              </Link>
              {mine.map((p) => (
                <Link
                  key={p.key}
                  href={href({ process: p.key, page: "1" })}
                  className={q.process === p.key ? "font-medium no-underline" : "link text-soft"}
                >
                  {p.name}
                </Link>
              ))}
            </nav>
          </div>
          {rows.length === 0 ? (
            <Empty title="Nothing here">
              {view === "stuck" ? "No request is stuck." : "No request matches."}
            </Empty>
          ) : (
            <Table
              // Narrower it scrolls, instead of leaving nothing of what gives way.
              style={{ minWidth: "54rem" }}
              head={[
                "Number",
                "What",
                "Asked by",
                "State",
                "Step",
                "Who has it",
                "Limit",
                { id: "made", name: "Made", spare: true },
              ]}
            >
              {rows.map((r) => (
                <tr key={r.number} data-row>
                  <td className="whitespace-nowrap" title={`made ${dayText(r.started_at, actor.zone)}`}>
                    <Link className="link" href={`/requests/${r.number}`} prefetch={false}>
                      {r.number}
                    </Link>
                  </td>
                  <td className="w-[46%] max-w-0 truncate" title={r.title}>
                    {r.title}
                  </td>
                  <td className="whitespace-nowrap">{r.requester_name}</td>
                  <td>
                    <RequestState status={r.status} result={r.result} tone={r.result_tone} />
                  </td>
                  <td className="w-[26%] max-w-0 truncate" title={r.step ?? undefined}>
                    {r.step}
                  </td>
                  <td className="w-[28%] max-w-0 truncate" title={r.waiting_names.join(", ")}>
                    {r.waiting_names.slice(0, 2).join(", ")}
                    {r.waiting_names.length > 2 && ` and ${r.waiting_names.length - 2} more`}
                  </td>
                  <td className="whitespace-nowrap">
                    {r.due_at !== null &&
                      (r.due_at < now ? (
                        <Mark tone="late">over since {whenText(r.due_at, actor.zone)}</Mark>
                      ) : (
                        whenText(r.due_at, actor.zone)
                      ))}
                  </td>
                  <td className={classes("whitespace-nowrap text-soft", SPARE)}>
                    {dayText(r.started_at, actor.zone)}
                  </td>
                </tr>
              ))}
            </Table>
          )}
          <Pager
            page={page}
            size={PAGE}
            total={total}
            href={(p) => href({ page: String(p) })}
            what="requests"
            search={q.q ?? ""}
          />
        </>
      )}
    </>
  );
}
