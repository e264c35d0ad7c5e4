"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import { Banner, Button, Table } from "@/ui";
import { addServiceAction, setServiceAction } from "../../../actions/office";
import { say } from "../../../shell/say";

/** Accounts of other programs: who keeps the office opens and closes them; each acts by its keys below. */
export function Programs({
  programs,
}: {
  programs: { id: string; name: string; purpose: string; active: boolean }[];
}) {
  const router = useRouter();
  const [name, setName] = useState("");
  const [purpose, setPurpose] = useState("");
  const [said, setSaid] = useState("");
  const [busy, start] = useTransition();
  return (
    <section aria-labelledby="services" className="mb-9">
      <h2 id="services" className="mb-2">
        Services
      </h2>
      <p className="mb-3 max-w-[70ch] text-soft">
        An account for a program that acts on its own, not for one person. It can make requests and read what
        everybody may read; nobody picks it, no step asks it.
      </p>
      {said && <Banner tone="bad">{said}</Banner>}
      <form
        className="mb-4 flex flex-wrap items-end gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          start(async () => {
            const r = await addServiceAction(name, purpose);
            setSaid(r.ok ? "" : r.sentence);
            if (r.ok) {
              say(`${name.trim()} is open. Make a key for it below.`);
              setName("");
              setPurpose("");
            }
            router.refresh();
          });
        }}
      >
        <span>
          <label htmlFor="service-name" className="mb-1 block text-sm">
            Name of the service
          </label>
          <input
            id="service-name"
            className="input w-56"
            value={name}
            onChange={(e) => setName(e.target.value)}
            placeholder="Stock list"
          />
        </span>
        <span>
          <label htmlFor="service-purpose" className="mb-1 block text-sm">
            What it does
          </label>
          <input
            id="service-purpose"
            className="input w-80"
            maxLength={200}
            value={purpose}
            onChange={(e) => setPurpose(e.target.value)}
            placeholder="Orders what runs low, every night"
          />
        </span>
        <Button type="submit" disabled={busy}>
          Add a service
        </Button>
      </form>
      {programs.length === 0 ? (
        <p className="text-soft">No services yet.</p>
      ) : (
        <Table
          aria-labelledby="services"
          head={["Name", "What it does", "State", { id: "do", name: "Do", hidden: true }]}
        >
          {programs.map((p) => (
            <tr key={p.id}>
              <td className="font-medium">{p.name}</td>
              <td>{p.purpose}</td>
              <td>{p.active ? "open" : <span className="text-soft">closed; its keys do not work</span>}</td>
              <td>
                <Button
                  small
                  disabled={busy}
                  aria-label={`${p.active ? "Close" : "Open"} ${p.name}`}
                  onClick={() =>
                    start(async () => {
                      const r = await setServiceAction(p.id, !p.active);
                      if (!r.ok) say(r.sentence, "bad");
                      router.refresh();
                    })
                  }
                >
                  {p.active ? "Close" : "Open"}
                </Button>
              </td>
            </tr>
          ))}
        </Table>
      )}
    </section>
  );
}
