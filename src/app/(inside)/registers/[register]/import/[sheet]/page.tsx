import type { Metadata } from "next";
import Link from "next/link";
import { ROW_OUTCOMES, type RowOutcome } from "@/core/sheets";
import { sheetPage } from "@/services";
import { Banner, buttonClass, Empty, Mark, PageHeader } from "@/ui";
import { answerOf, requireActor } from "@/web";
import { Missing } from "../../../../../shell/Missing";
import { countsInWords, sheetState } from "../sheetState";
import { Follow } from "./Follow";
import { Matches } from "./Matches";
import { Deeds } from "./Deeds";
import { RowsTold } from "./RowsTold";

export const metadata: Metadata = { title: "A sheet" };

const NAMES = {
  added: "Added",
  changed: "Changed",
  same: "So already",
  left: "Left",
  refused: "Refused",
} satisfies Record<RowOutcome, string>;
const GOING = new Set(["reading", "trying", "writing"]);

export default async function SheetImportPage({
  params,
  searchParams,
}: {
  params: Promise<{ register: string; sheet: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const { register, sheet: id } = await params;
  const here = `/registers/${register}/import/${id}`;
  const actor = await requireActor(here);
  const q = await searchParams;
  const of = ROW_OUTCOMES.find((o) => o === q["of"]) ?? null;
  const after = Number(/^\d{1,7}$/.exec(String(q["after"] ?? ""))?.[0] ?? 0);
  const found = await answerOf(await sheetPage(actor, id, of, after));
  if (!found.ok)
    return <Missing sentence={found.sentence} back={{ href: `/registers/${register}`, name: "the list" }} />;
  const { sheet, register: r, rows, more } = found.value;
  const starts = Object.values(sheet.starts).reduce((a, n) => a + n, 0);
  const tried = sheet.status === "tried" || sheet.status === "writing" || sheet.status === "done";
  const ended = sheet.status === "done" || sheet.status === "stopped" || sheet.status === "failed";
  const some = (sheet.counts.added ?? 0) + (sheet.counts.changed ?? 0) > 0;
  return (
    <>
      <PageHeader
        above={
          <Link className="link" href={`/registers/${r.key}`}>
            {r.name}
          </Link>
        }
        title={sheet.name}
        state={<Mark tone={sheet.status === "failed" ? "refuse" : "plain"}>{sheetState(sheet)}</Mark>}
        action={
          <Deeds id={sheet.id} register={r.key} status={sheet.status} asking={sheet.asking} some={some} />
        }
      />
      {GOING.has(sheet.status) && (
        <Follow id={sheet.id} status={sheet.status} done={sheet.done} total={sheet.total} />
      )}
      {sheet.why && <Banner tone="bad">{sheet.why}</Banner>}
      {sheet.status === "stopped" && (
        <Banner tone="info">It was stopped, and nothing of it was written.</Banner>
      )}
      {!ended &&
        sheet.notes.map((n) => (
          <Banner key={n} tone="soon">
            {n}
          </Banner>
        ))}
      {tried && (
        <p className="mb-4 max-w-[75ch] text-lg">
          Of {sheet.total.toLocaleString("en-IE")} {sheet.total === 1 ? "row" : "rows"},{" "}
          {countsInWords(sheet.counts)}.
          {starts > 0 && !sheet.plan?.quietly && (
            <>
              {" "}
              {`${starts.toLocaleString("en-IE")} ${starts === 1 ? "request starts" : "requests start"} by it.`}
            </>
          )}
        </p>
      )}
      <div className="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,24rem)_minmax(0,1fr)]">
        {sheet.plan && (sheet.status === "tried" || sheet.status === "trying") && (
          <Matches page={found.value} />
        )}
        {tried && (
          <section
            aria-labelledby="rows"
            className={ended || sheet.status === "writing" ? "min-w-0 lg:col-span-2" : "min-w-0"}
          >
            <h2 id="rows" className="mb-2">
              {sheet.status === "done" ? "Rows that were refused" : "Row by row"}
            </h2>
            {sheet.status !== "done" && (
              <nav aria-label="Rows shown" className="mb-2 flex flex-wrap gap-x-4">
                {[null, ...ROW_OUTCOMES.filter((o) => sheet.counts[o])].map((o) => (
                  <Link
                    key={o ?? "all"}
                    href={o ? `${here}?of=${o}` : here}
                    scroll={false}
                    prefetch={false}
                    aria-current={o === of ? "page" : undefined}
                    className={o === of ? "font-semibold no-underline" : "link"}
                  >
                    {o ? `${NAMES[o]} ${sheet.counts[o]!.toLocaleString("en-IE")}` : "All"}
                  </Link>
                ))}
              </nav>
            )}
            {sheet.status === "done" && (sheet.counts.refused ?? 0) > 0 && (
              <p className="mb-2">
                <a className={buttonClass("plain", true)} href={`/api/sheets/${sheet.id}/refused`}>
                  Save them as a file
                </a>{" "}
                <span className="text-soft">to mend, with why each was refused; then bring that in.</span>
              </p>
            )}
            {rows.length === 0 ? (
              <Empty title={sheet.status === "done" ? "None was refused" : "No rows of this kind"} />
            ) : (
              <RowsTold rows={rows} name={NAMES} />
            )}
            {more && (
              <p className="mt-3">
                <Link
                  className="link"
                  prefetch={false}
                  href={`${here}?${new URLSearchParams({ ...(of ? { of } : {}), after: String(rows.at(-1)!.line) })}`}
                >
                  Further rows
                </Link>
              </p>
            )}
          </section>
        )}
      </div>
    </>
  );
}
