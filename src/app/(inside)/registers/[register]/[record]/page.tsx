import Link from "next/link";
import type { Column, FactsData } from "@/core/form";
import { pointedWords } from "@/core/words";
import { FIELD_INPUTS } from "@/fields/inputs";
import { FileList, Leading } from "@/forms";
import { recordPage, registerNames } from "@/services";
import { PageHeader, whenText } from "@/ui";
import { answerOf, requireActor } from "@/web";
import { Missing } from "../../../../shell/Missing";
import { cellText } from "../../../../shell/cellText";
import { Notes } from "./Notes";
import { Offered } from "./Offered";
import { PutBack, RecordDeeds } from "./RecordDeeds";

export default async function RecordPage({
  params,
}: {
  params: Promise<{ register: string; record: string }>;
}) {
  const { register, record: id } = await params;
  const actor = await requireActor(`/registers/${register}/${id}`);
  const page = await answerOf(await recordPage(actor, register, id));
  if (!page.ok) return <Missing sentence={page.sentence} back={{ href: "/registers", name: "Registers" }} />;
  const {
    shape,
    record,
    title,
    links,
    linked,
    files,
    people,
    history,
    version,
    may,
    pointing,
    offered,
    notes,
  } = page.value;
  const names = await registerNames(actor);
  const nameOf = (column: string) => shape.columns.find((c) => c.id === column);
  return (
    <>
      <PageHeader
        above={
          <>
            <Link className="link" href="/registers">
              Registers
            </Link>{" "}
            ·{" "}
            <Link className="link" href={`/registers/${register}`}>
              {shape.name}
            </Link>
          </>
        }
        title={title}
        action={
          <RecordDeeds
            register={register}
            id={record.id}
            version={version}
            one={shape.one}
            title={title}
            may={may}
            pointing={pointedWords(pointing, names)}
          />
        }
      />
      {offered.length > 0 && <Offered record={record.id} offered={offered} />}
      <div className="grid gap-x-12 gap-y-8 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
        <dl className="grid content-start grid-cols-[minmax(8rem,12rem)_minmax(0,1fr)] gap-x-4">
          {shape.columns.map((c) => (
            <div key={c.id} className="col-span-2 grid grid-cols-subgrid border-b border-line py-1.5">
              <dt className="text-soft">{c.name}</dt>
              <dd>
                {links[c.id] ? (
                  <>
                    <Link className="link" href={`/registers/${links[c.id]!.register}/${links[c.id]!.id}`}>
                      {links[c.id]!.title}
                    </Link>
                    {c.registers && (
                      <span className="ml-2 text-sm text-soft">{names[links[c.id]!.register]?.one}</span>
                    )}
                  </>
                ) : (
                  <Cell
                    column={c}
                    value={record[c.id]}
                    text={cellText(c, record[c.id], people, linked[c.id])}
                    files={files}
                  />
                )}
              </dd>
            </div>
          ))}
        </dl>
        <section>
          <Notes register={register} record={record.id} one={shape.one} notes={notes} zone={actor.zone} />
          {pointing.length > 0 && (
            <>
              <h2 className="mb-2">What points here</h2>
              <ul className="mb-6">
                {pointing.map((p) => {
                  const from = names[p.register]!;
                  return (
                    <li key={`${p.register}/${p.column}`} className="border-t border-line py-2">
                      <Link
                        className="link font-medium"
                        href={`/registers/${p.register}?is.${p.column}=${encodeURIComponent(p.pointer)}`}
                        prefetch={false}
                      >
                        {from.name}
                      </Link>{" "}
                      <span className="text-soft">
                        by {from.columns.find((c) => c.id === p.column)?.name}, {p.count}
                      </span>
                      <span className="mt-1 block text-sm">
                        {p.records.map((r, i) => (
                          <span key={r.id}>
                            {i > 0 && " · "}
                            <Link
                              className="link inline-block min-h-6"
                              href={`/registers/${p.register}/${r.id}`}
                              prefetch={false}
                            >
                              {r.title}
                            </Link>
                          </span>
                        ))}
                        {p.count > p.records.length && ` · and ${p.count - p.records.length} more`}
                      </span>
                    </li>
                  );
                })}
              </ul>
            </>
          )}
          <h2 className="mb-2">What was changed</h2>
          {history.length === 0 && <p className="text-soft">Nothing since this register was set up.</p>}
          <ol>
            {history.map((h) => (
              <li key={h.id} className="border-t border-line py-2">
                <p>
                  <span className="font-medium">{h.by_name ?? "Cobble Step"}</span>{" "}
                  {h.did === "changed" ? "changed" : `${h.did} this ${shape.one}`}
                  {h.request_number && (
                    <>
                      {" "}
                      by{" "}
                      <Link className="link" href={`/requests/${h.request_number}`} prefetch={false}>
                        {h.request_number}
                      </Link>
                    </>
                  )}
                  <span className="text-sm text-faint">, {whenText(h.at, actor.zone)}</span>
                  {may.change && h.did === "changed" && (
                    <span className="ml-3">
                      <PutBack
                        register={register}
                        change={h.id}
                        what={`the change of ${whenText(h.at, actor.zone)}`}
                      />
                    </span>
                  )}
                </p>
                {Object.keys(h.after ?? h.before ?? {}).map((k) => {
                  const c = nameOf(k);
                  if (!c) return null;
                  const before = h.before ? cellText(c, h.before[k], people, linked[k]) : "";
                  const after = h.after ? cellText(c, h.after[k], people, linked[k]) : "";
                  if (!before && !after) return null;
                  return (
                    <p key={k} className="text-sm">
                      <span className="text-soft">{c.name}:</span>{" "}
                      {before && <s className="text-soft">{before}</s>}{" "}
                      {after || (h.did === "changed" ? "emptied" : "")}
                    </p>
                  );
                })}
              </li>
            ))}
          </ol>
        </section>
      </div>
    </>
  );
}

interface CellProps {
  column: Column;
  value: unknown;
  text: string;
  files: NonNullable<FactsData["files"]>;
}

function Cell({ column, value, text, files }: CellProps) {
  if (!text) return <span className="text-faint">–</span>;
  const held = typeof value === "string" ? FIELD_INPUTS[column.kind].files?.(value) : undefined;
  if (held) return <FileList ids={held} facts={{ files }} />;
  return <Leading kind={column.kind} value={value} text={text} />;
}
