"use client";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import { Banner, Button, Dialog, Field } from "@/ui";
import { makeRegisterAction } from "../../actions/registers";
import { say } from "../../shell/say";
import { useProof } from "../../shell/useProof";
import { idFrom } from "./[register]/columns/idFrom";

/** A new register, with one column; the others are added on its column sheet. */
export function NewRegister() {
  const router = useRouter();
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const [one, setOne] = useState("");
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  const { proved, dialog } = useProof();
  const make = () =>
    start(async () => {
      const key = idFrom(name, { columns: [] });
      const r = await proved(() =>
        makeRegisterAction({
          format: "cobble-step/register@1",
          key,
          name: name.trim(),
          one: one.trim(),
          purpose: "",
          columns: [{ id: "name", name: "Name", kind: "text", needed: true }],
          title: ["name"],
        }),
      );
      if (!r.ok) return setWrong(r.sentence);
      say(`${name.trim()} is made.`);
      router.push(`/registers/${key}/columns`);
    });
  return (
    <>
      {dialog}
      <Button look="main" onClick={() => setOpen(true)}>
        New register
      </Button>
      <Dialog open={open} onOpenChange={setOpen} title="A new register">
        {wrong && <Banner tone="bad">{wrong}</Banner>}
        <form
          className="grid gap-3"
          onSubmit={(e) => {
            e.preventDefault();
            make();
          }}
        >
          <Field label="What it is called" help="For example: Treatments">
            {(f) => <input className="input" {...f} value={name} onChange={(e) => setName(e.target.value)} />}
          </Field>
          <Field label="One record is called" help="For example: treatment">
            {(f) => <input className="input" {...f} value={one} onChange={(e) => setOne(e.target.value)} />}
          </Field>
          <p className="text-soft">You look after it, and nobody else sees it until you say who does.</p>
          <div className="flex flex-wrap items-center gap-4">
            <Button look="main" type="submit" disabled={busy || !name.trim() || !one.trim()}>
              {busy ? "Making…" : "Make it"}
            </Button>
            <Link className="link" href="/registers/from-a-sheet">
              Make it from a sheet of rows
            </Link>
          </div>
        </form>
      </Dialog>
    </>
  );
}
