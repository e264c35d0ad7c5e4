import Link from "next/link";
import { maySayRights, nowFor, registerPage } from "@/services";
import { Banner, buttonClass, Empty, PageHeader, Table } from "@/ui";
import { answerOf, pageNumber, requireActor } from "@/web";
import { Missing } from "../../../shell/Missing";
import { Pager } from "../../../shell/Pager";
import { cellText } from "../../../shell/cellText";
import { WhereUsed } from "../../../shell/WhereUsed";
import { FilterBar } from "./FilterBar";

/** How a column that is sorted by shows it, and what a further press on its name does. */
const SORTED = {
  up: { aria: "ascending", arrow: " ↑", next: (column: string) => `-${column}` },
  down: { aria: "descending", arrow: " ↓", next: () => null },
} as const;
const PAGE = 40;
type Search = Record<string, string | string[] | undefined>;
const one = (v: string | string[] | undefined): string => (Array.isArray(v) ? (v[0] ?? "") : (v ?? ""));

export default async function RegisterPage({
  params,
  searchParams,
}: {
  params: Promise<{ register: string }>;
  searchParams: Promise<Search>;
}) {
  const { register } = await params;
  const actor = await requireActor(`/registers/${register}`);
  const q = await searchParams;
  const page = pageNumber(one(q["page"]));
  const search = one(q["q"]);
  const sort = one(q["sort"]);
  const filters = Object.entries(q)
    .filter(([k]) => k.startsWith("is."))
    .map(([k, v]) => ({ column: k.slice(3), value: one(v) }));
  const asked = {
    search,
    filters,
    sort: sort ? { column: sort.replace(/^-/, ""), descending: sort.startsWith("-") } : null,
    offset: (page - 1) * PAGE,
    limit: PAGE,
  };
  const where = one(q["where"]).slice(0, 4000);
  let found = await answerOf(await registerPage(actor, register, asked, where));
  // A condition that cannot be searched for is said; the records are shown without it.
  const refused = !found.ok && where !== "" ? found.sentence : "";
  if (refused) found = await answerOf(await registerPage(actor, register, asked));
  if (!found.ok)
    return <Missing sentence={found.sentence} back={{ href: "/registers", name: "Registers" }} />;
  const { shape, registers, rows, total, people, may } = found.value;
  const href = (change: Record<string, string | null>) => {
    const p = new URLSearchParams(Object.entries(q).map(([k, v]) => [k, one(v)]));
    for (const [k, v] of Object.entries(change))
      if (v === null || v === "") p.delete(k);
      else p.set(k, v);
    return `/registers/${register}?${p}`;
  };
  return (
    <>
      <PageHeader
        above={
          <Link className="link" href="/registers">
            Registers
          </Link>
        }
        title={shape.name}
        lead={shape.purpose}
        action={
          <span className="flex flex-wrap items-center gap-2">
            {(await maySayRights(actor, register)) && (
              <Link
                className={buttonClass("quiet", true)}
                href={`/registers/${register}/rights`}
                prefetch={false}
              >
                Who may see it
              </Link>
            )}
            {may.add && (
              <Link
                className={buttonClass("main", true)}
                href={`/registers/${register}/new`}
                prefetch={false}
              >
                New {shape.one}
              </Link>
            )}
            <WhereUsed of="register" named={register} name={shape.name} />
          </span>
        }
      />
      <FilterBar
        register={register}
        shape={shape}
        registers={registers}
        search={search}
        filters={filters}
        where={where}
        now={await nowFor()}
        zone={actor.zone}
      />
      {refused && (
        <Banner tone="bad">
          {refused} All {shape.name.toLowerCase()} are shown.
        </Banner>
      )}
      {rows.length === 0 ? (
        <Empty
          title={`No ${shape.one} matches`}
          action={
            <Link className="link" href={`/registers/${register}`}>
              Show all
            </Link>
          }
        >
          Search looks in every text column; filters ask for one column.
        </Empty>
      ) : (
        <Table
          within="max-h-[calc(100vh-17rem)] overflow-auto"
          head={shape.columns.map((c) => {
            const mine = sort.replace(/^-/, "") === c.id;
            const way = SORTED[sort.startsWith("-") ? "down" : "up"];
            return {
              id: c.id,
              figures: c.kind === "money" || c.kind === "number",
              ...(mine ? { sorted: way.aria } : {}),
              name: (
                <Link
                  className="no-underline hover:underline"
                  href={href({ sort: mine ? way.next(c.id) : c.id, page: null })}
                >
                  {c.name}
                  {mine ? way.arrow : ""}
                </Link>
              ),
            };
          })}
        >
          {rows.map((r) => (
            <tr key={r.id} data-row>
              {shape.columns.map((c, i) => {
                const text =
                  c.kind === "look-up" && c.register && r[c.id]
                    ? String(r[`${c.id}#`] ?? r[c.id])
                    : cellText(c, r[c.id], people);
                return (
                  <td
                    key={c.id}
                    className={
                      c.kind === "money" || c.kind === "number"
                        ? "text-right whitespace-nowrap"
                        : "max-w-72 truncate whitespace-nowrap"
                    }
                    title={text.length > 34 ? text : undefined}
                  >
                    {i === 0 ? (
                      <Link
                        className="link whitespace-nowrap"
                        href={`/registers/${register}/${r.id}`}
                        prefetch={false}
                      >
                        {text || `${shape.one} ${r.id}`}
                      </Link>
                    ) : c.kind === "look-up" && r[c.id] ? (
                      <Link
                        className="link"
                        href={`/registers/${c.register}/${String(r[c.id])}`}
                        prefetch={false}
                      >
                        {text}
                      </Link>
                    ) : (
                      text
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </Table>
      )}
      <Pager
        page={page}
        size={PAGE}
        total={total}
        href={(p) => href({ page: String(p) })}
        what={shape.name.toLowerCase()}
        search={search}
      />
    </>
  );
}
