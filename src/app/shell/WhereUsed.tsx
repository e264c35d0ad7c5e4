"use client";
import Link from "next/link";
import { useState } from "react";
import type { UsedBy } from "@/services";
import { Button, Popover } from "@/ui";
import { usesOfAction } from "../actions/workshop";

/** A button that says which steps and fields of processes name something: looked up when somebody asks. */
export function WhereUsed({
  of,
  named,
  name,
}: {
  of: Parameters<typeof usesOfAction>[0];
  /** Its key. */
  named: string;
  /** What it is called. */
  name: string;
}) {
  const [open, setOpen] = useState(false);
  const [used, setUsed] = useState<UsedBy[] | null>(null);
  const [said, setSaid] = useState("");
  const look = (o: boolean) => {
    setOpen(o);
    if (!o) return;
    setSaid("Looking…");
    void usesOfAction(of, named)
      .catch(() => null)
      .then((r) => {
        setUsed(r);
        setSaid(r ? "" : "The server could not be reached. Try again in a moment.");
      });
  };
  return (
    <Popover
      open={open}
      onOpenChange={look}
      width={420}
      trigger={
        <Button small look="quiet" aria-label={`Where it is used: ${name}`}>
          Where it is used
        </Button>
      }
    >
      <div role="status" className="max-h-[60vh] overflow-auto text-sm">
        {said && <p className="text-soft">{said}</p>}
        {!said && used?.length === 0 && (
          <p className="text-soft">No process that you may design names {name}.</p>
        )}
        <ul>
          {used?.map((u, i) => (
            <li key={i} className="border-t border-line py-1 first:border-0">
              <Link
                className="link"
                href={`/workshop/${u.key}/${u.number === "" ? "form" : "route"}`}
                prefetch={false}
              >
                {u.process}
              </Link>
              , {u.number} {u.step}
              <span className="text-soft">, {u.version ? `${u.version}, live` : "the draft"}</span>
            </li>
          ))}
        </ul>
      </div>
    </Popover>
  );
}
