import type { Metadata } from "next";
import Link from "next/link";
import { managers, type TreeNode } from "@/services";
import { Banner, PageHeader } from "@/ui";
import { answerOf, requireActor } from "@/web";
import { Missing } from "../../../shell/Missing";

export const metadata: Metadata = { title: "Managers" };

/** Of those who manage nobody, as many are named below one manager. */
const NAMED = 30;

export default async function ManagersPage() {
  const actor = await requireActor("/office/managers");
  const page = await answerOf(await managers(actor));
  if (!page.ok)
    return (
      <Missing
        sentence="Who manages whom is seen to by those with the rights of the office."
        back={{ href: "/office", name: "Office" }}
      />
    );
  const { tops, alone, circles, stops } = page.value;
  const round = new Set(circles.flat().map((p) => p.id));
  const heads = tops.filter((p) => !round.has(p.id));
  return (
    <>
      <PageHeader
        title="Managers"
        above={
          <Link className="link" href="/office">
            Office
          </Link>
        }
        lead="Who stands above whom, and where processes would find nobody as the office is now."
      />
      <div className="grid max-w-4xl gap-8">
        <section aria-labelledby="stops">
          <h2 id="stops" className="mb-2">
            Processes that would ask nobody
          </h2>
          {stops.length === 0 ? (
            <p className="text-soft">
              None. Every duty, group and person that open processes ask by is there.
            </p>
          ) : (
            <ul>
              {stops.map((s) => (
                <li key={s.key} className="border-t border-line py-2">
                  <p className="font-medium">{s.name}</p>
                  <ul className="text-brick">
                    {s.at.map((x, i) => (
                      <li key={i}>
                        {x.where}: {x.message}
                      </li>
                    ))}
                  </ul>
                </li>
              ))}
            </ul>
          )}
        </section>
        <section aria-labelledby="tree">
          <h2 id="tree" className="mb-2">
            Who manages whom
          </h2>
          {circles.map((c) => (
            <Banner key={c[0]!.id} tone="bad">
              {c.length === 1
                ? `${c[0]!.name} is their own manager.`
                : `${c.map((p) => p.name).join(", ")} manage each other in a circle.`}{" "}
              Rules by manager go round it once. Give one of them another manager.
            </Banner>
          ))}
          {heads.length > 1 && (
            <p className="mb-2 text-soft">
              {heads.length} people manage others and have no manager themselves: for what they ask a rule by
              manager finds nobody.
            </p>
          )}
          <ul>
            {tops.map((n) => (
              <Branch key={n.id} node={n} open />
            ))}
          </ul>
        </section>
        {alone.length > 0 && (
          <section aria-labelledby="alone">
            <h2 id="alone" className="mb-1">
              Without a manager
            </h2>
            <p className="mb-2 text-soft">
              For {alone.length === 1 ? "this person" : "these"} a rule by manager finds nobody. A process
              says who is asked then, or stops.
            </p>
            <ul>
              {alone.map((p) => (
                <li key={p.id} className="py-0.5">
                  <Person {...p} />
                </li>
              ))}
            </ul>
          </section>
        )}
      </div>
    </>
  );
}

function Person({ id, name, jobTitle }: Pick<TreeNode, "id" | "name" | "jobTitle">) {
  return (
    <>
      <Link className="link" href={`/office/people/${id}`} prefetch={false}>
        {name}
      </Link>
      {jobTitle && <span className="text-soft">, {jobTitle}</span>}
    </>
  );
}

/** Somebody with all below them, which folds. */
function Branch({ node, open = false }: { node: TreeNode; open?: boolean }) {
  const leaves = node.manages.filter((n) => n.below === 0);
  const others = node.manages.filter((n) => n.below > 0);
  // Whoever manages none but those of a circle has nobody of their own below them.
  if (node.below === 0)
    return (
      <li className="py-0.5">
        <Person {...node} />
      </li>
    );
  return (
    <li className="py-0.5">
      <Person {...node} />
      <details open={open}>
        <summary className="min-h-6 cursor-pointer py-[3px] text-sm text-soft">
          {node.below === 1 ? "one person" : `${node.below} people`} below
          <span className="sr-only"> {node.name}</span>
        </summary>
        <ul className="ml-2 border-l border-line pl-4">
          {others.map((n) => (
            <Branch key={n.id} node={n} open={open && node.below < 100} />
          ))}
          {node.manages.length === 0 && <li className="py-0.5 text-soft">too deep to be shown here</li>}
          {leaves.slice(0, NAMED).map((n) => (
            <li key={n.id} className="py-0.5">
              <Person {...n} />
            </li>
          ))}
          {leaves.length > NAMED && (
            <li className="py-0.5 text-soft">and {leaves.length - NAMED} more who manage nobody</li>
          )}
        </ul>
      </details>
    </li>
  );
}
