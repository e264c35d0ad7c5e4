"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import { Banner, Button, Dialog } from "@/ui";
import { erasePersonAction } from "../../../../actions/people";
import { say } from "../../../../shell/say";
import type { useProof } from "../../../../shell/useProof";

const several = (n: number, one: string, more: string) => `${n} ${n === 1 ? one : more}`;

/** Blanks what there is of one person, after saying what that is. */
export function Erase({
  person,
  proved,
}: {
  person: { id: string; name: string };
  proved: ReturnType<typeof useProof>["proved"];
}) {
  const router = useRouter();
  const [open, setOpen] = useState(false);
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  return (
    <>
      <Button look="brick" onClick={() => setOpen(true)}>
        Blank personal values…
      </Button>
      <Dialog open={open} onOpenChange={setOpen} title={`Blank the personal values of ${person.name}`}>
        {wrong && <Banner tone="bad">{wrong}</Banner>}
        <p className="mb-3">
          In all ended requests of theirs, the fields marked as personal are made empty, files in them are
          removed, and so are the notes {person.name} wrote anywhere, forms they began, and what they were
          told. What was decided, and when, stays.
        </p>
        <p className="mb-4 text-soft">
          This cannot be undone. Requests still under way are left as they are.
        </p>
        <div className="flex gap-2">
          <Button
            look="brick"
            disabled={busy}
            onClick={() =>
              start(async () => {
                const r = await proved(() => erasePersonAction(person.id));
                if (!r.ok) return setWrong(r.sentence);
                const { requests, underWay } = r.value;
                setOpen(false);
                say(
                  `Blanked in ${several(requests, "request", "requests")}${underWay > 0 ? `; ${several(underWay, "is", "are")} still under way` : ""}.`,
                );
                router.refresh();
              })
            }
          >
            {busy ? "Blanking…" : "Blank them for good"}
          </Button>
          <Button onClick={() => setOpen(false)}>Leave them</Button>
        </div>
      </Dialog>
    </>
  );
}
