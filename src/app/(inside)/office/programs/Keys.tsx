"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import { Banner, Button, Select, Table, whenText } from "@/ui";
import { makeKeyAction, revokeKeyAction } from "../../../actions/office";
import { say } from "../../../shell/say";
import { useProof } from "../../../shell/useProof";

interface Key {
  id: string;
  person: string;
  label: string;
  made: number;
  used: number | null;
  revoked: number | null;
}
interface Named {
  id: string;
  name: string;
}

/** Keys by which other programs act as a person or a service; shown whole only once. */
export function Keys({
  keys,
  me,
  programs,
  zone,
}: {
  keys: Key[];
  me: Named;
  programs: Named[];
  zone: string;
}) {
  const router = useRouter();
  const [label, setLabel] = useState("");
  const [person, setPerson] = useState(me.id);
  const [made, setMade] = useState<string | null>(null);
  const [said, setSaid] = useState("");
  const [busy, start] = useTransition();
  const { proved, dialog } = useProof();
  return (
    <section aria-labelledby="keys">
      <h2 id="keys" className="mb-2">
        Keys for programs
      </h2>
      <p className="mb-3 max-w-[70ch] text-soft">
        A program that sends its key acts as the person or service it was made for, with their rights and no
        more. What can be asked is described at{" "}
        <a className="link" href="/api/v1/openapi.json">
          /api/v1/openapi.json
        </a>
        .
      </p>
      {dialog}
      {said && <Banner tone="bad">{said}</Banner>}
      {made && (
        <Banner tone="info">
          Copy the key now, it is not shown again:{" "}
          <code className="font-mono break-all select-all">{made}</code>
        </Banner>
      )}
      <form
        className="mb-4 flex flex-wrap items-end gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          start(async () => {
            const r = await proved(() => makeKeyAction(person, label));
            setSaid(r.ok ? "" : r.sentence);
            setMade(r.ok ? r.value.key : null);
            if (r.ok) setLabel("");
            router.refresh();
          });
        }}
      >
        <span>
          <label htmlFor="key-label" className="mb-1 block text-sm">
            What it is for
          </label>
          <input
            id="key-label"
            className="input w-72"
            value={label}
            onChange={(e) => setLabel(e.target.value)}
            placeholder="nightly stock list"
          />
        </span>
        {programs.length > 0 && (
          <span>
            <label htmlFor="key-person" className="mb-1 block text-sm">
              Acts as
            </label>
            <Select
              id="key-person"
              className="w-56"
              value={person}
              onPick={(value) => setPerson(value)}
              options={[
                { value: me.id, label: `you, ${me.name}` },
                { heading: "Services", of: [...programs.map((o) => ({ value: o.id, label: o.name }))] },
              ]}
            />
          </span>
        )}
        <Button type="submit" disabled={busy}>
          Make a key
        </Button>
      </form>
      {keys.length === 0 ? (
        <p className="text-soft">No keys yet.</p>
      ) : (
        <Table
          aria-labelledby="keys"
          head={["For", "Acts as", "Made", "Last used", { id: "do", name: "Do", hidden: true }]}
        >
          {keys.map((k) => (
            <tr key={k.id}>
              <td>{k.label}</td>
              <td>{k.person}</td>
              <td>{whenText(k.made, zone)}</td>
              <td>{k.used ? whenText(k.used, zone) : "never"}</td>
              <td>
                {k.revoked ? (
                  <span className="text-soft">taken back</span>
                ) : (
                  <Button
                    small
                    disabled={busy}
                    onClick={() =>
                      start(async () => {
                        const r = await revokeKeyAction(k.id);
                        if (r.ok) say("The key no longer works.");
                        else say(r.sentence, "bad");
                        router.refresh();
                      })
                    }
                  >
                    Take back
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </Table>
      )}
    </section>
  );
}
