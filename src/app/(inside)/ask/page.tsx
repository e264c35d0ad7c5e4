import type { Metadata } from "next";
import Link from "next/link";
import { catalogue, myRequests } from "@/services";
import { dayText, Empty, PageHeader, Table, whenText } from "@/ui";
import { pageNumber, requireActor } from "@/web";
import { CatalogueList } from "../../shell/CatalogueList";
import { Pager } from "../../shell/Pager";
import { RequestState } from "../../shell/RequestState";

export const metadata: Metadata = { title: "Ask" };
const PAGE = 25;

export default async function AskPage({ searchParams }: { searchParams: Promise<{ page?: string }> }) {
  const actor = await requireActor();
  const page = pageNumber((await searchParams).page);
  const [{ entries, drafts }, mine] = await Promise.all([
    catalogue(actor),
    myRequests(actor, (page - 1) * PAGE, PAGE),
  ]);
  const { rows } = mine;
  return (
    <>
      <PageHeader title="Ask" lead="Pick what you need; the form says the rest." />
      {entries.length === 0 && (
        <Empty title="Nothing to ask for yet">
          Process owners release processes in the Workshop; those open to you stand here.
        </Empty>
      )}
      <CatalogueList forms={entries} area="ask" columns />
      {drafts.length > 0 && (
        <section className="mb-9">
          <h2 className="mb-2">Not sent yet</h2>
          <ul className="border-t border-line">
            {drafts.map((d) => (
              <li key={d.id} className="border-b border-line py-1.5">
                <Link
                  className="link"
                  href={`/ask/${d.process}?draft=${d.id}${d.press ? `&start=${d.press.start}&record=${d.press.record}` : ""}`}
                  prefetch={false}
                >
                  {d.name}
                </Link>{" "}
                <span className="text-soft">last changed {whenText(d.changedAt, actor.zone)}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      <section aria-labelledby="mine">
        <h2 id="mine" className="mb-2">
          My requests
        </h2>
        {rows.length === 0 ? (
          <Empty title="You have not asked for anything yet">
            Once you have, you see here how far it is and who has it.
          </Empty>
        ) : (
          <Table head={["Number", "What", "State", "Who has it now", "Made"]}>
            {rows.map((r) => (
              <tr key={r.number} data-row>
                <td className="whitespace-nowrap">
                  <Link className="link" href={`/requests/${r.number}`} prefetch={false}>
                    {r.number}
                  </Link>
                </td>
                <td>{r.title}</td>
                <td>
                  <RequestState status={r.status} result={r.result} tone={r.result_tone} stage={r.stage} />
                </td>
                <td className="text-soft">
                  {r.waiting_names.length > 0
                    ? `${r.waiting_names.slice(0, 3).join(", ")}${r.waiting_names.length > 3 ? " and others" : ""}: ${r.step}`
                    : ""}
                </td>
                <td className="whitespace-nowrap text-soft">{dayText(r.started_at, actor.zone)}</td>
              </tr>
            ))}
          </Table>
        )}
        <Pager page={page} size={PAGE} total={mine.total} href={(p) => `/ask?page=${p}`} what="requests" />
      </section>
    </>
  );
}
