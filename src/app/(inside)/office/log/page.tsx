import type { Metadata } from "next";
import Link from "next/link";
import { logPage } from "@/services";
import { buttonClass, Empty, PageHeader, Select, Table, whenText } from "@/ui";
import { requireActor } from "@/web";
import { Missing } from "../../../shell/Missing";

export const metadata: Metadata = { title: "Log" };

export default async function LogPage({
  searchParams,
}: {
  searchParams: Promise<{ kind?: string; person?: string; before?: string }>;
}) {
  const actor = await requireActor("/office/log");
  const { kind = "", person = "", before = "" } = await searchParams;
  const page = await logPage(actor, { kind, person, before });
  if (!page)
    return (
      <Missing
        sentence="The log is shown to those with the rights of the office."
        back={{ href: "/office", name: "Office" }}
      />
    );
  const query = (change: Record<string, string>) =>
    new URLSearchParams(Object.entries({ kind, person, ...change }).filter(([, v]) => v !== "")).toString();
  return (
    <>
      <PageHeader
        title="Log"
        lead="What matters for safety: who signed in, keys, rights, people, owners, releases, exports, and what was refused."
        action={
          <a className={buttonClass()} href={`/api/log?${query({})}`} download>
            Save as CSV
          </a>
        }
      />
      <form method="get" className="mb-4 flex flex-wrap items-end gap-3">
        <label className="block">
          <span className="mb-1 block text-sm">What</span>
          <Select
            name="kind"
            defaultValue={kind}
            className="w-60"
            empty="everything"
            options={page.kinds.map((k) => ({ value: k, label: k }))}
          />
        </label>
        <label className="block">
          <span className="mb-1 block text-sm">Who or about whom</span>
          <Select
            name="person"
            defaultValue={person}
            className="w-60"
            empty="anybody"
            options={page.people.map((p) => ({ value: p.id, label: p.name }))}
          />
        </label>
        <button type="submit" className={buttonClass()}>
          Show
        </button>
      </form>
      {page.lines.length === 0 ? (
        <Empty title="Nothing of this kind">Nothing was noted, or it is older than the log is kept.</Empty>
      ) : (
        <Table head={["When", "Who", "What", "Through", "Address"]}>
          {page.lines.map((l) => (
            <tr key={l.id}>
              <td className="whitespace-nowrap">{whenText(l.at, actor.zone)}</td>
              <td className="whitespace-nowrap font-medium">{l.by}</td>
              <td className={l.tone === "refuse" ? "text-brick" : ""}>{l.sentence}</td>
              <td className="whitespace-nowrap text-soft">{l.via}</td>
              <td className="whitespace-nowrap text-soft">{l.address}</td>
            </tr>
          ))}
        </Table>
      )}
      <nav aria-label="Pages of the log" className="mt-3 flex gap-3">
        {before !== "" && (
          <Link className={buttonClass("plain", true)} href={`/office/log?${query({})}`}>
            Newest
          </Link>
        )}
        {page.before && (
          <Link
            className={buttonClass("plain", true)}
            href={`/office/log?${query({ before: page.before })}`}
            rel="next"
          >
            Earlier
          </Link>
        )}
      </nav>
    </>
  );
}
