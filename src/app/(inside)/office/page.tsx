import type { Metadata } from "next";
import Link from "next/link";
import { officePage, PEOPLE_PAGE } from "@/services";
import { buttonClass, dayText, Empty, Mark, PageHeader, Table } from "@/ui";
import { pageNumber, requireActor } from "@/web";
import { Pager } from "../../shell/Pager";
import { SearchBox } from "../../shell/SearchBox";

export const metadata: Metadata = { title: "Office" };

export default async function OfficePage({
  searchParams,
}: {
  searchParams: Promise<{ q?: string; page?: string }>;
}) {
  const actor = await requireActor("/office");
  const said = await searchParams;
  const q = said.q ?? "";
  const page = pageNumber(said.page);
  const { people, total } = await officePage(actor, q, page);
  return (
    <>
      <PageHeader
        title="Office"
        lead="Everybody who works here. Processes find their people by what stands here: managers, departments, sites, duties, covers."
        action={
          actor.officeRights && (
            <>
              <Link className={buttonClass()} href="/office/managers">
                Who manages whom
              </Link>
              <Link className={buttonClass()} href="/office/people/import">
                Bring in a sheet
              </Link>
              <Link className={buttonClass("main")} href="/office/people/new">
                Add a person
              </Link>
            </>
          )
        }
      />
      <div className="mb-3">
        <SearchBox label="Search name, job, department" value={q} path="/office" params={{}} />
      </div>
      {people.length === 0 ? (
        <Empty title="Nobody fits">Search for a part of a name, a job, a department or a site.</Empty>
      ) : (
        <Table head={["Name", "Job", "Department", "Site", "Manager", "Duties", "Away"]}>
          {people.map((p) => (
            <tr key={p.id}>
              <td className="whitespace-nowrap font-medium">
                <Link className="link" href={`/office/people/${p.id}`} prefetch={false}>
                  {p.name}
                </Link>{" "}
                {!p.active && <Mark>closed</Mark>}
              </td>
              <td>{p.jobTitle}</td>
              <td>{p.department}</td>
              <td className="whitespace-nowrap">{p.site}</td>
              <td className="whitespace-nowrap">{p.manager}</td>
              <td>{p.duties.join("; ")}</td>
              <td>
                {p.away &&
                  `until ${dayText(p.away.until, actor.zone)}${p.away.cover ? `; ${p.away.cover} covers` : ""}`}
              </td>
            </tr>
          ))}
        </Table>
      )}
      <Pager
        page={page}
        size={PEOPLE_PAGE}
        total={total}
        href={(p) => `/office?${new URLSearchParams({ ...(q ? { q } : {}), page: String(p) })}`}
        what="people"
      />
      <p className="mt-2 text-sm text-soft">
        Duties are records of the register Role holders; processes may write them too.
      </p>
    </>
  );
}
