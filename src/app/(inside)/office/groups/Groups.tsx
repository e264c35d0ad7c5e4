"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import type { OfficePage } from "@/services";
import { Banner, Button, Empty } from "@/ui";
import { putGroupAction, removeGroupAction } from "../../../actions/people";
import { say } from "../../../shell/say";
import { PersonPicker } from "../../../shell/PersonPicker";
import { WhereUsed } from "../../../shell/WhereUsed";
import { useProof } from "../../../shell/useProof";

type Group = OfficePage["groups"][number];
interface People {
  people: { id: string; name: string; jobTitle: string }[];
}

/** Groups and who is in them; each is changed in its own place. */
export function Groups({ groups, people, keeps }: { groups: Group[]; keeps: boolean } & People) {
  const [open, setOpen] = useState<string | null>(null);
  return (
    <div className="max-w-3xl">
      {keeps && open !== "" && (
        <p className="mb-4">
          <Button look="main" onClick={() => setOpen("")}>
            Add a group
          </Button>
        </p>
      )}
      {open === "" && <Editing group={null} people={people} done={() => setOpen(null)} />}
      {groups.length === 0 && open !== "" && (
        <Empty title="No groups yet">
          A group is a list of people with a name, for example Key committee.
        </Empty>
      )}
      {groups.map((g) =>
        open === g.key ? (
          <Editing key={g.key} group={g} people={people} done={() => setOpen(null)} />
        ) : (
          <section
            key={g.key}
            id={`group-${g.key}`}
            aria-label={g.name}
            className="flex items-start gap-4 border-t border-line py-2"
          >
            <div className="min-w-0 flex-1">
              <h2 className="!text-base">{g.name}</h2>
              <p className="text-soft">
                {g.members.length === 0 ? "Nobody is in it." : g.members.map((m) => m.name).join(", ")}
              </p>
            </div>
            <WhereUsed of="group" named={g.key} name={g.name} />
            {keeps && (
              <Button small aria-label={`Change ${g.name}`} onClick={() => setOpen(g.key)}>
                Change
              </Button>
            )}
          </section>
        ),
      )}
    </div>
  );
}

function Editing({ group, people, done }: { group: Group | null; done(): void } & People) {
  const router = useRouter();
  const [name, setName] = useState(group?.name ?? "");
  const [members, setMembers] = useState(group?.members ?? []);
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  const { proved, dialog } = useProof();
  const after = (r: { ok: true } | { ok: false; sentence: string }, said: string) => {
    if (!r.ok) return setWrong(r.sentence);
    say(said);
    done();
    router.refresh();
  };
  return (
    <form
      className="grid gap-3 border-t border-line-strong py-4"
      aria-label={group ? `Change ${group.name}` : "Add a group"}
      onSubmit={(e) => {
        e.preventDefault();
        start(async () =>
          after(
            await proved(() =>
              putGroupAction(
                group?.key ?? null,
                name,
                members.map((m) => m.id),
              ),
            ),
            `${name} is kept.`,
          ),
        );
      }}
    >
      {dialog}
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      <label className="block">
        <span className="mb-1 block text-sm">Name</span>
        <input
          className="input max-w-80"
          required
          value={name}
          placeholder="Key committee"
          onChange={(e) => setName(e.target.value)}
        />
      </label>
      <div>
        <label htmlFor="group-member" className="mb-1 block text-sm">
          Members
        </label>
        <ul className="mb-2 flex flex-wrap gap-x-4 gap-y-1">
          {members.map((m) => (
            <li key={m.id}>
              {m.name}{" "}
              <button
                type="button"
                className="text-sm underline"
                aria-label={`Take ${m.name} out`}
                onClick={() => setMembers(members.filter((x) => x.id !== m.id))}
              >
                take out
              </button>
            </li>
          ))}
        </ul>
        <div className="max-w-80">
          <PersonPicker
            id="group-member"
            label="Members"
            people={people}
            value={null}
            placeholder="Add somebody…"
            but={members}
            onPick={(o) => o && setMembers([...members, { id: o.id, name: o.name }])}
          />
        </div>
      </div>
      <div className="flex flex-wrap gap-2">
        <Button look="main" type="submit" disabled={busy}>
          Keep
        </Button>
        <Button onClick={done}>Leave as it was</Button>
        {group && (
          <Button
            look="brick"
            disabled={busy}
            onClick={() =>
              start(async () =>
                after(await proved(() => removeGroupAction(group.key)), `${group.name} is removed.`),
              )
            }
          >
            Remove this group
          </Button>
        )}
      </div>
    </form>
  );
}
