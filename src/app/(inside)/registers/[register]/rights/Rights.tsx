"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import { mayBeOpened, type RegisterRights } from "@/core/form";
import { KINDS } from "@/kinds";
import type { RightsPage } from "@/services";
import { Banner, Button, Table } from "@/ui";
import { setRightsAction } from "../../../../actions/registers";
import { PersonPicker } from "../../../../shell/PersonPicker";
import { say } from "../../../../shell/say";
import { useProof } from "../../../../shell/useProof";
import { AudienceList, peopleKnown } from "./AudienceList";

/** Who looks after a register, who sees it, which columns only some of them see, and which processes read it. */
export function Rights({ register, page }: { register: string; page: RightsPage }) {
  const router = useRouter();
  const { shape, readers } = page;
  const [rights, setRights] = useState<RegisterRights>(page.rights);
  const [people, setPeople] = useState(page.people);
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  const { proved, dialog } = useProof();
  const office = { ...page, people };
  const put = (patch: Partial<RegisterRights>) => setRights((r) => ({ ...r, ...patch }));
  const called = (id: string, name: string) => setPeople((p) => ({ ...p, [id]: name }));
  const changed = JSON.stringify(rights) !== JSON.stringify(page.rights);
  const keep = () =>
    start(async () => {
      const r = await proved(() => setRightsAction(register, page.rights, rights));
      if (!r.ok) return setWrong(r.sentence);
      setWrong("");
      say(`Who may see ${shape.name} is kept.`);
      router.refresh();
    });
  return (
    <form
      className="grid max-w-4xl gap-6"
      aria-label={`Who may see ${shape.name}`}
      onSubmit={(e) => {
        e.preventDefault();
        keep();
      }}
    >
      {dialog}
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      <Keepers
        keepers={rights.keepers}
        people={people}
        onChange={(keepers) => put({ keepers })}
        onPerson={called}
      />
      <section aria-labelledby="seen-by">
        <h2 id="seen-by" className="!text-base">
          Its records are seen by
        </h2>
        <p className="mb-2 text-soft">Whoever is in one of these.</p>
        <AudienceList
          of={shape.name}
          list={rights.see}
          office={office}
          onChange={(see) => put({ see })}
          onPerson={called}
        />
      </section>
      {WRITES.map(({ what, title }) => (
        <section key={what} aria-labelledby={`${what}-by`}>
          <h2 id={`${what}-by`} className="!text-base">
            {title}
          </h2>
          <p className="mb-2 text-soft">Of those who see it, whoever is in one of these.</p>
          <AudienceList
            of={title}
            list={rights[what]}
            office={office}
            onChange={(list) => put({ [what]: list })}
            onPerson={called}
          />
        </section>
      ))}
      <Columns
        says={SEEN}
        shape={shape}
        only={rights.columns}
        office={office}
        onChange={(columns) => put({ columns })}
        onPerson={called}
      />
      <Columns
        says={FILLED}
        shape={{ ...shape, columns: shape.columns.filter((c) => c.worked === undefined) }}
        only={rights.fill}
        office={office}
        onChange={(fill) => put({ fill })}
        onPerson={called}
      />
      <Opened shape={shape} open={rights.open ?? []} onChange={(open) => put({ open })} />
      <Readers
        name={shape.name}
        readers={readers}
        withdrawn={rights.withdrawn}
        onChange={(withdrawn) => put({ withdrawn })}
      />
      <div className="sticky bottom-0 flex flex-wrap items-center gap-3 border-t border-line bg-ground py-3">
        <Button look="main" type="submit" disabled={busy || !changed}>
          Keep
        </Button>
        {changed && (
          <Button
            onClick={() => {
              setRights(page.rights);
              setWrong("");
            }}
          >
            Leave as it was
          </Button>
        )}
        <span role="status" className="text-soft">
          {changed ? "Not kept yet." : ""}
        </span>
      </div>
    </form>
  );
}

function Keepers({
  keepers,
  people,
  onChange,
  onPerson,
}: {
  keepers: readonly string[];
  people: Record<string, string>;
  onChange(keepers: string[]): void;
  onPerson(id: string, name: string): void;
}) {
  return (
    <section aria-labelledby="keepers">
      <h2 id="keepers" className="!text-base">
        Looked after by
      </h2>
      <p className="mb-2 text-soft">They see all of it, and say here who else does.</p>
      <ul className="mb-2 flex flex-wrap gap-x-4 gap-y-1">
        {keepers.length === 0 && <li className="text-soft">Nobody; the office says who may see it.</li>}
        {keepers.map((id) => (
          <li key={id}>
            {people[id] ?? id}{" "}
            <button
              type="button"
              className="text-sm underline"
              aria-label={`take out ${people[id] ?? id}`}
              onClick={() => onChange(keepers.filter((x) => x !== id))}
            >
              take out
            </button>
          </li>
        ))}
      </ul>
      <div className="max-w-80">
        <PersonPicker
          id="keeper"
          label="Who else looks after it"
          also={peopleKnown({ people })}
          value={null}
          placeholder="Add somebody…"
          but={keepers.map((id) => ({ id }))}
          onPick={(p) => {
            if (!p) return;
            onPerson(p.id, p.name);
            onChange([...keepers, p.id]);
          }}
        />
      </div>
    </section>
  );
}

const WRITES = [
  { what: "add", title: "Records are added by" },
  { what: "change", title: "Records are changed by" },
  { what: "remove", title: "Records are removed by" },
] as const;

interface ColumnsSay {
  id: string;
  title: string;
  about: string;
  /** Behind “only some”, and as the head of the column. */
  verb: string;
  head: string;
  everybody: string;
}
const SEEN: ColumnsSay = {
  id: "columns-seen",
  title: "Columns only some of them see",
  about: "Hidden from the others in lists, searches, forms, requests and their trails.",
  verb: "see",
  head: "Seen by",
  everybody: "whoever sees the register",
};
const FILLED: ColumnsSay = {
  id: "columns-filled",
  title: "Columns only some of them fill in",
  about: "The others see what stands there, and leave it as it is. Steps of processes are not held by this.",
  verb: "fill in",
  head: "Filled in by",
  everybody: "whoever adds or changes records",
};

function Columns({
  says,
  shape,
  only: rights,
  office,
  onChange,
  onPerson,
}: {
  says: ColumnsSay;
  shape: RightsPage["shape"];
  only: RegisterRights["columns"];
  office: RightsPage;
  onChange(columns: RegisterRights["columns"]): void;
  onPerson(id: string, name: string): void;
}) {
  const without = (id: string) =>
    Object.fromEntries(Object.entries(rights).filter(([column]) => column !== id));
  return (
    <section aria-labelledby={says.id}>
      <h2 id={says.id} className="!text-base">
        {says.title}
      </h2>
      <p className="mb-2 text-soft">{says.about}</p>
      <Table head={["Column", says.head, { id: "what", name: "What can be done", hidden: true }]}>
        {shape.columns.map((c) => {
          const only = rights[c.id];
          return (
            <tr key={c.id}>
              <td className="align-top">{c.name}</td>
              <td>
                {only === undefined ? (
                  <span className="text-soft">{says.everybody}</span>
                ) : (
                  <AudienceList
                    of={c.name}
                    list={only}
                    office={office}
                    onChange={(list) => onChange({ ...rights, [c.id]: list })}
                    onPerson={onPerson}
                  />
                )}
              </td>
              <td className="text-right align-top">
                {only === undefined ? (
                  <Button
                    small
                    look="quiet"
                    aria-label={`Only some ${says.verb} ${c.name}`}
                    onClick={() => onChange({ ...rights, [c.id]: [] })}
                  >
                    Only some
                  </Button>
                ) : (
                  <Button
                    small
                    look="quiet"
                    aria-label={`All of them ${says.verb} ${c.name}`}
                    onClick={() => onChange(without(c.id))}
                  >
                    All of them
                  </Button>
                )}
              </td>
            </tr>
          );
        })}
      </Table>
    </section>
  );
}

/** What people outside see of it in public forms that look it up. */
function Opened({
  shape,
  open,
  onChange,
}: {
  shape: RightsPage["shape"];
  open: readonly string[];
  onChange(open: string[]): void;
}) {
  const columns = shape.columns.filter((c) => mayBeOpened(c, KINDS.fields));
  return (
    <section aria-labelledby="opened">
      <h2 id="opened" className="!text-base">
        Seen by people outside
      </h2>
      <p className="mb-2 text-soft">
        In public forms that look up {shape.name}, by anybody on the web: of every record the columns ticked
        here, and nothing else. Where none is, they see nothing of it. People, requests and files are never
        shown.
      </p>
      <ul className="flex flex-wrap gap-x-5 gap-y-1">
        {columns.map((c) => (
          <li key={c.id}>
            <label className="flex items-baseline gap-2">
              <input
                type="checkbox"
                checked={open.includes(c.id)}
                onChange={(e) =>
                  onChange(e.target.checked ? [...open, c.id] : open.filter((id) => id !== c.id))
                }
              />
              {c.name}
            </label>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Readers({
  name,
  readers,
  withdrawn,
  onChange,
}: {
  name: string;
  readers: RightsPage["readers"];
  withdrawn: readonly string[];
  onChange(withdrawn: string[]): void;
}) {
  return (
    <section aria-labelledby="readers">
      <h2 id="readers" className="!text-base">
        Processes that read it
      </h2>
      <p className="mb-2 text-soft">
        Each was released by somebody who might see what it reads. One it is withdrawn from stops at a step
        that would search or write {name}, and its owners are told; what its forms look up stays.
      </p>
      {readers.length === 0 && <p className="text-soft">No process that is live does.</p>}
      {readers.length > 0 && (
        <Table
          head={["Process", "Released by", "Columns", { id: "what", name: "What can be done", hidden: true }]}
        >
          {readers.map((r) => {
            const off = withdrawn.includes(r.key);
            return (
              <tr key={r.key}>
                <td className="whitespace-nowrap">
                  {r.name} <span className="text-soft">{r.version}</span>
                  {off && <span className="block text-sm text-brick">may not read it any more</span>}
                </td>
                <td>{r.releasedBy ?? <span className="text-soft">with the installation</span>}</td>
                <td>
                  {r.columns === null ? <span className="text-soft">not known</span> : r.columns.join(", ")}
                </td>
                <td className="text-right">
                  <Button
                    small
                    look="quiet"
                    aria-label={off ? `Let it read again: ${r.name}` : `Withdraw it from ${r.name}`}
                    onClick={() =>
                      onChange(off ? withdrawn.filter((k) => k !== r.key) : [...withdrawn, r.key])
                    }
                  >
                    {off ? "Let it read again" : "Withdraw"}
                  </Button>
                </td>
              </tr>
            );
          })}
        </Table>
      )}
    </section>
  );
}
