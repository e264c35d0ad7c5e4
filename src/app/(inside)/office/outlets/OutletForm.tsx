"use client";
import { useState } from "react";
import type { Outlet } from "@/core/route";
import type { OutletInput, OutletShown } from "@/services";
import { putOutletAction, removeOutletAction, tryOutletAction } from "../../../actions/outlets";
import { Line } from "../Line";
import { ServiceForm } from "../ServiceForm";

interface Props {
  kind: Outlet;
  /** As a heading. */
  title: string;
  lead: string;
  example: string;
  /** As it is set up; null where there is none. */
  shown: OutletShown | null;
}

/** Where documents are brought, as it is set up. */
export function OutletForm({ kind, title, lead, example, shown }: Props) {
  const blank: OutletInput = { kind, address: "", account: null, secret: null };
  const [said, setSaid] = useState<OutletInput>({ ...blank, ...shown });
  const set = (patch: Partial<OutletInput>) => setSaid({ ...said, ...patch });
  return (
    <ServiceForm
      label={title}
      head={
        <>
          <h2>{title}</h2>
          <p className="max-w-prose text-soft">{lead}</p>
        </>
      }
      exists={shown !== null}
      onKeep={() => putOutletAction(said)}
      onKept={() => set({ secret: null })}
      onTry={() => tryOutletAction(kind)}
      onRemove={() => removeOutletAction(kind)}
      onRemoved={() => setSaid(blank)}
      says={{
        kept: `${title} is kept.`,
        letsIn: `${title}: Cobble Step is let in.`,
        removed: `${title}: there is none any more.`,
      }}
    >
      <Line
        label="Address"
        value={said.address}
        put={(address) => set({ address })}
        required
        placeholder={example}
      />
      <Line
        label="Account"
        value={said.account ?? ""}
        put={(v) => set({ account: v === "" ? null : v })}
        autoComplete="off"
        placeholder="none: it is entered with a token"
      />
      <Line
        label="Password or token"
        type="password"
        value={said.secret ?? ""}
        put={(v) => set({ secret: v === "" ? null : v })}
        autoComplete="new-password"
        placeholder={shown ? "as it was" : ""}
      />
    </ServiceForm>
  );
}
