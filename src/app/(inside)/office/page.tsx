import type { Metadata } from "next";
import { listKeys, listServices, officePage } from "@/services";
import { dayText, PageHeader } from "@/ui";
import { requireActor } from "@/web";
import { Keys } from "./Keys";
import { Programs } from "./Programs";

export const metadata: Metadata = { title: "Office" };
const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];

export default async function OfficePage() {
  const actor = await requireActor("/office");
  const [office, keys, programs] = await Promise.all([
    officePage(actor),
    listKeys(actor),
    listServices(actor),
  ]);
  return (
    <>
      <PageHeader
        title="Office"
        lead="People, duties, working calendars and keys for other programs. Processes find their people here."
      />
      <section aria-labelledby="people" className="mb-9">
        <h2 id="people" className="mb-2">
          People
        </h2>
        <div className="overflow-x-auto">
          <table className="sheet-table">
            <thead>
              <tr>
                <th>Name</th>
                <th>Job</th>
                <th>Department</th>
                <th>Site</th>
                <th>Manager</th>
                <th>Duties</th>
                <th>Away</th>
              </tr>
            </thead>
            <tbody>
              {office.people.map((p) => (
                <tr key={p.id}>
                  <td className="whitespace-nowrap font-medium">{p.name}</td>
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
            </tbody>
          </table>
        </div>
        <p className="mt-2 text-sm text-soft">
          Duties are records of the register Role holders; processes may write them too.
        </p>
      </section>
      <div className="mb-9 grid gap-x-12 gap-y-8 lg:grid-cols-2">
        <section>
          <h2 className="mb-2">Groups</h2>
          {office.groups.map((g) => (
            <p key={g.name} className="border-t border-line py-1.5">
              <span className="font-medium">{g.name}</span>: {g.members.join(", ")}
            </p>
          ))}
        </section>
        <section>
          <h2 className="mb-2">Working calendars</h2>
          {office.calendars.map((c) => (
            <div key={c.key} className="border-t border-line py-1.5">
              <p>
                <span className="font-medium">{c.name}</span> <span className="text-soft">{c.zone}</span>
              </p>
              <p className="text-sm text-soft">
                {Object.entries(c.week)
                  .map(([d, spans]) => `${DAYS[Number(d) - 1]} ${spans.map((s) => s.join("–")).join(", ")}`)
                  .join(" · ")}
              </p>
              <p className="text-sm text-soft">{c.holidays.length} holidays entered</p>
            </div>
          ))}
        </section>
      </div>
      {actor.officeRights && <Programs programs={programs} />}
      <Keys
        zone={actor.zone}
        me={{ id: actor.id, name: actor.name }}
        programs={programs.filter((p) => p.active).map((p) => ({ id: p.id, name: p.name }))}
        keys={keys.map((k) => ({
          id: k.id,
          person: k.person_name,
          label: k.label,
          made: k.created_at,
          used: k.last_used_at,
          revoked: k.revoked_at,
        }))}
      />
    </>
  );
}
