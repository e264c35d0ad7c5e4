import Link from "next/link";
import { personPage } from "@/services";
import { Mark, PageHeader } from "@/ui";
import { answerOf, requireActor } from "@/web";
import { Missing } from "../../../../shell/Missing";
import { AwayTimes } from "../../../../shell/AwayTimes";
import { PersonForm } from "../PersonForm";
import { Account } from "./Account";
import { Duties } from "./Duties";

export async function generateMetadata() {
  return { title: "Person" };
}

export default async function PersonPage({ params }: { params: Promise<{ person: string }> }) {
  const { person } = await params;
  const actor = await requireActor(`/office/people/${person}`);
  const r = await answerOf(await personPage(actor, person));
  if (!r.ok) return <Missing sentence={r.sentence} back={{ href: "/office", name: "Office" }} />;
  const p = r.value;
  const fact = (name: string, value: string | null) =>
    value && (
      <>
        <dt className="text-soft">{name}</dt>
        <dd>{value}</dd>
      </>
    );
  return (
    <>
      <PageHeader
        above={
          <Link className="link" href="/office">
            Office
          </Link>
        }
        title={p.said.name}
        state={
          p.active ? (
            p.keep?.rights && <Mark tone="info">rights of the office</Mark>
          ) : (
            <Mark>account closed</Mark>
          )
        }
        lead={[p.said.jobTitle, p.said.department, p.said.site].filter(Boolean).join(", ")}
      />
      <div className="grid gap-x-12 gap-y-8 lg:grid-cols-[minmax(0,1fr)_24rem]">
        <div className="min-w-0">
          {p.keep ? (
            <section aria-labelledby="facts">
              <h2 id="facts" className="mb-3">
                Facts
              </h2>
              <PersonForm key={JSON.stringify(p.said)} id={p.id} said={p.said} choices={p.keep} />
            </section>
          ) : (
            <dl className="grid max-w-2xl grid-cols-[9rem_1fr] gap-x-4 gap-y-1.5">
              {fact("E-mail", p.said.email)}
              {fact("Job", p.said.jobTitle)}
              {fact("Department", p.said.department)}
              {fact("Site", p.said.site)}
              {fact("Manager", p.managerName)}
              {fact("Working calendar", p.calendarName)}
              {fact("Time zone", p.said.zone)}
            </dl>
          )}
          {p.keep && (
            <Account
              person={{ id: p.id, name: p.said.name, active: p.active }}
              me={actor.id === p.id}
              rights={p.keep.rights}
              work={p.keep.work}
              people={p.keep.people}
            />
          )}
        </div>
        <aside className="grid min-w-0 content-start gap-8">
          <AwayTimes
            person={p.id}
            away={p.away}
            duties={[...new Set(p.duties.map((x) => x.duty))]}
            may={p.maySetAway && p.active}
            people={p.keep?.people ?? p.colleagues}
            whose={actor.id === p.id ? "You are" : `${p.said.name} is`}
          />
          <Duties person={p.id} duties={p.duties} keep={p.keep && p.active ? p.keep : null} />
          <section aria-labelledby="groups">
            <h2 id="groups" className="mb-2">
              Groups
            </h2>
            {p.groups.length === 0 ? (
              <p className="text-soft">In no group.</p>
            ) : (
              <ul>
                {p.groups.map((g) => (
                  <li key={g.key} className="border-t border-line py-1">
                    <Link className="link" href={`/office/groups#group-${g.key}`}>
                      {g.name}
                    </Link>
                  </li>
                ))}
              </ul>
            )}
          </section>
        </aside>
      </div>
    </>
  );
}
