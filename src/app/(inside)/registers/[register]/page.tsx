import Link from "next/link";
import type {
  Column,
  FactsData,
  PersonFacts,
  RecordRef,
  Registers,
  RegisterShape,
  StoredRecord,
} from "@/core/form";
import { KINDS } from "@/kinds";
import {
  keptViews,
  maySayRights,
  nowFor,
  registerGroups,
  registerPage,
  type RecordRow,
  type ListSearch,
} from "@/services";
import { Banner, buttonClass, Empty, PageHeader } from "@/ui";
import { answerOf, pageNumber, requireActor } from "@/web";
import { Missing } from "../../../shell/Missing";
import { Pager, PlacePager } from "../../../shell/Pager";
import { cellText } from "../../../shell/cellText";
import { WhereUsed } from "../../../shell/WhereUsed";
import { FilterBar } from "./FilterBar";
import { RecordList } from "./RecordList";
import { GroupTable } from "./GroupTable";
import { SheetsMenu } from "./SheetsMenu";
import { ViewChoice } from "./ViewChoice";
import { WidthGrip } from "./WidthGrip";
import { listView, MOST_SORTS } from "./listView";

/** How a column that is sorted by shows it. */
const SORTED = {
  up: { aria: "ascending", arrow: " ↑" },
  down: { aria: "descending", arrow: " ↓" },
} as const;
type Sort = NonNullable<ListSearch["sort"]>[number];

/** What a press on a column's name comes to: up, then down, then not by it; the others stay behind it. */
function sortedBy(sorts: readonly Sort[], column: string): string | null {
  const mine = sorts.find((s) => s.column === column);
  const rest = sorts.filter((s) => s !== mine);
  const next = mine?.descending ? rest : [{ column, descending: mine !== undefined }, ...rest];
  const text = next.slice(0, MOST_SORTS).map((s) => `${s.descending ? "-" : ""}${s.column}`);
  return text.length > 0 ? text.join(",") : null;
}

const textOf = (c: Column, r: RecordRow, people: Readonly<Record<string, string>>): string =>
  r[c.id] && typeof r[`${c.id}#`] === "string" ? String(r[`${c.id}#`]) : cellText(c, r[c.id], people);

/** What the links of a record point at, by column. */
const linksOf = (shape: Pick<RegisterShape, "columns">, r: RecordRow): Record<string, RecordRef> =>
  Object.fromEntries(
    shape.columns.flatMap((c) => {
      const raw = r[c.id];
      const to = typeof raw === "string" ? KINDS.fields[c.kind].links?.target(c, raw) : null;
      return to ? [[c.id, to]] : [];
    }),
  );

/** Of links that may lead to several registers, what a record of the one they lead to is called. */
const onesOf = (columns: Column[], r: RecordRow, registers: Registers): Record<string, string> =>
  Object.fromEntries(
    Object.entries(linksOf({ columns }, r)).flatMap(([id, to]) => {
      const c = columns.find((x) => x.id === id)!;
      const one = registers[to.register]?.one;
      return one && KINDS.fields[c.kind].links!.registers(c).length > 1 ? [[id, one]] : [];
    }),
  );

/** What a filter asks for in words: whom or what an id stands for, as the records that are found have it. */
function saidOf(
  f: { column: string; value: string },
  rows: readonly RecordRow[],
  people: Readonly<Record<string, string>>,
): string {
  const named = rows[0]?.[`${f.column}#`];
  return typeof named === "string" ? named : (people[f.value] ?? f.value);
}

/** What cells being filled in know of people and records that stand in them already. */
function factsOf(
  rows: readonly RecordRow[],
  shape: RegisterShape,
  named: Registers,
  people: Readonly<Record<string, string>>,
): FactsData {
  const records: Record<string, Record<string, StoredRecord>> = {};
  const registers: Record<string, RegisterShape> = {};
  const title = { id: "title", name: "Title", kind: "text" } as const;
  for (const c of shape.columns)
    for (const key of KINDS.fields[c.kind].links?.registers(c) ?? [])
      registers[key] = {
        ...shape,
        key,
        name: named[key]?.name ?? key,
        columns: named[key] ? [title] : [],
        title: ["title"],
      };
  for (const r of rows)
    for (const [column, { register, id }] of Object.entries(linksOf(shape, r)))
      (records[register] ??= {})[id] = { id, title: String(r[`${column}#`] ?? r[column]) };
  const known = Object.entries(people).map(([id, name]): [string, PersonFacts] => [
    id,
    { id, name, email: "", jobTitle: "", department: "", site: "" },
  ]);
  return { people: Object.fromEntries(known), registers, records };
}
const PAGE = 40;
/** What of a list's address says where in it one is. */
const PLACE = ["page", "after", "before"];
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
  const address = new URLSearchParams(Object.entries(q).map(([k, v]) => [k, one(v)]));
  const { search, filters, sort: sorts, where, columns: wanted, widths, group } = listView(address);
  const view = new URLSearchParams(address);
  for (const k of PLACE) view.delete(k);
  const back = !address.has("after") && address.has("before");
  const place = address.get(back ? "before" : "after");
  const asked = {
    search,
    filters,
    sort: sorts,
    offset: (page - 1) * PAGE,
    limit: PAGE,
    ...(place ? { from: { place, back } } : {}),
  };
  let found = await answerOf(await registerPage(actor, register, asked, where));
  // A condition that cannot be searched for is said; the records are shown without it.
  const refused = !found.ok && where !== "" ? found.sentence : "";
  if (refused) found = await answerOf(await registerPage(actor, register, asked));
  if (!found.ok)
    return <Missing sentence={found.sentence} back={{ href: "/registers", name: "Registers" }} />;
  const { shape, registers, rows, total, earlier, next, people, may, versions } = found.value;
  const href = (change: Record<string, string | null>) => {
    const p = new URLSearchParams(view);
    for (const [k, v] of Object.entries(change))
      if (v === null || v === "") p.delete(k);
      else p.set(k, v);
    return `/registers/${register}?${p}`;
  };
  const keeps = await maySayRights(actor, register);
  const chosen = shape.columns.filter((c) => wanted.includes(c.id));
  const columns = chosen.length > 0 ? chosen : shape.columns.filter((c) => !c.unlisted);
  const by = shape.columns.find((c) => c.id === group);
  const groups =
    by &&
    (await answerOf(await registerGroups(actor, register, { search, filters }, refused ? "" : where, by.id)));
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
            {keeps && (
              <Link
                className={buttonClass("quiet", true)}
                href={`/registers/${register}/rights`}
                prefetch={false}
              >
                Who may see it
              </Link>
            )}
            {keeps && (
              <Link
                className={buttonClass("quiet", true)}
                href={`/registers/${register}/columns`}
                prefetch={false}
              >
                Columns and rules
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
            <ViewChoice
              register={register}
              name={shape.name}
              columns={shape.columns}
              shown={columns.map((c) => c.id)}
              widths={widths}
              group={group}
              view={`${view}`}
              kept={await keptViews(actor, register)}
              keeps={keeps}
            />
            <SheetsMenu
              register={register}
              view={`${view}`}
              brings={may.add || may.change}
              columns={columns.map((c) => c.id)}
              one={shape.one}
              total={total}
              first={rows.map((r) => columns.map((c) => textOf(c, r, people)))}
            />
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
        said={Object.fromEntries(filters.map((f) => [f.column, saidOf(f, rows, people)]))}
        where={where}
        view={`${view}`}
        now={await nowFor()}
        zone={actor.zone}
      />
      {refused && (
        <Banner tone="bad">
          {refused} All {shape.name.toLowerCase()} are shown.
        </Banner>
      )}
      {groups && !groups.ok && <Banner tone="bad">{groups.sentence}</Banner>}
      {by && groups?.ok && rows.length > 0 && (
        <GroupTable register={register} by={by} found={groups.value} columns={columns} view={`${view}`} />
      )}
      {(rows.length > 0 || filters.length > 0) && !by && (
        <RecordList
          register={register}
          shape={shape}
          columns={columns}
          rows={rows.map((r) => ({
            id: r.id,
            version: versions[r.id] ?? "0",
            values: Object.fromEntries(shape.columns.map((c) => [c.id, r[c.id] ?? null])),
            texts: Object.fromEntries(columns.map((c) => [c.id, textOf(c, r, people)])),
            links: linksOf(shape, r),
            ones: onesOf(columns, r, registers),
          }))}
          may={may}
          facts={factsOf(rows, shape, registers, people)}
          filters={Object.fromEntries(filters.map((f) => [f.column, f.value]))}
          widths={widths}
          view={`${view}`}
          head={columns.map((c) => {
            const nth = sorts.findIndex((x) => x.column === c.id);
            const mine = sorts[nth];
            const way = SORTED[mine?.descending ? "down" : "up"];
            const nthSaid = sorts.length > 1 && mine ? ` ${nth + 1}` : "";
            return {
              id: c.id,
              figures: c.kind === "money" || c.kind === "number",
              ...(widths[c.id] ? { width: widths[c.id]! } : {}),
              edge: <WidthGrip register={register} column={c.id} view={`${view}`} />,
              ...(mine ? { sorted: way.aria } : {}),
              name:
                // Files stand in no order anybody would ask for.
                KINDS.fields[c.kind].idOf === "file" ? (
                  c.name
                ) : (
                  <Link className="no-underline hover:underline" href={href({ sort: sortedBy(sorts, c.id) })}>
                    {c.name}
                    {mine ? `${way.arrow}${nthSaid}` : ""}
                  </Link>
                ),
            };
          })}
        />
      )}
      {rows.length === 0 && (
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
      )}
      {!by && !place && (
        <Pager
          page={page}
          size={PAGE}
          total={total}
          href={(p) => href({ page: String(p) })}
          onward={next && href({ after: next })}
          what={shape.name.toLowerCase()}
          search={search}
        />
      )}
      {!by && place && (
        <PlacePager
          first={href({})}
          earlier={earlier && href({ before: earlier })}
          next={next && href({ after: next })}
          shown={rows.length}
          what={shape.name.toLowerCase()}
        />
      )}
      {(may.add || may.remove) && (
        <p className="mt-3 text-sm">
          <Link className="link" href={`/registers/${register}/removed`} prefetch={false}>
            Removed {shape.name.toLowerCase()}
          </Link>
        </p>
      )}
    </>
  );
}
