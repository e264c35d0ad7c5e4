"use client";
import { Repeat } from "lucide-react";
import { useMemo } from "react";
import { ANY, listOf, NUMBER, YESNO, type Scope } from "@/core/expression";
import { sampleAt } from "@/core/engine";
import { flatFields } from "@/core/form";
import { RouteScopes } from "@/core/route";
import { KINDS } from "@/kinds";
import { Select } from "@/ui";
import { Chip, FormulaCell, StepName, TextCell, useDraft, useNamesHere } from "@/workshop/parts";
import type { ListHeadProps, SentenceProps, StepView } from "../view";
import type { StepOf } from "@/core/route";
import { MOST_ROUNDS } from "./shape";

type ForEach = StepOf<"for each">;

const row = "grid grid-cols-[8.5rem_minmax(0,1fr)] items-center gap-x-2";

/** How many rounds at a time a pace begins with. */
const PACES = { all: null, one: 1, some: 5 };

/** The step as it reads at rest: "each line of Objects as Object, at most 3 at a time". */
function overText(step: ForEach, lines: string | undefined): string {
  const { over, only, gather, atOnce, collect, until } = step;
  const parts = [
    "lines" in over && `each line of ${lines ?? "no line items yet"} as ${step.item}`,
    "list" in over && (over.list ? `each of ${over.list} as ${step.item}` : "each of no list yet"),
    "times" in over && `${over.times || "?"} times as ${step.item}`,
    only && ` where ${only}`,
    gather && `, once per ${gather.as}`,
    atOnce === 1 && ", one after another",
    atOnce !== undefined && atOnce > 1 && `, at most ${atOnce} at a time`,
    until && `, until ${until}`,
    collect && `; leaves ${collect}`,
  ];
  return parts.filter(Boolean).join("");
}

/** What rounds go over, how many at a time, when they end and what they leave behind. */
function OverChip({ step, scope }: SentenceProps<"for each">) {
  const d = useDraft();
  const lines = flatFields(d.definition.fields).filter((f) => f.kind === "lines");
  const { over } = step;
  const of = "lines" in over ? lines.find((f) => f.id === over.lines)?.name : undefined;
  const empty = "lines" in over ? of === undefined : !("list" in over ? over.list : over.times);
  return (
    <Chip text={overText(step, of)} label="What it goes through" empty={empty} width={600}>
      {() => <OverEditor step={step} scope={scope} />}
    </Chip>
  );
}

function OverEditor({ step, scope }: SentenceProps<"for each">) {
  const d = useDraft();
  const lines = flatFields(d.definition.fields).filter((f) => f.kind === "lines");
  const put = (patch: { [K in keyof ForEach]?: ForEach[K] | null }) =>
    d.edit({ op: "step.set", id: step.id, patch });
  const scopes = useMemo(
    () => new RouteScopes(d.definition, { registers: d.office.registers, kinds: KINDS }),
    [d.definition, d.office.registers],
  );
  const owner = { kind: "step", id: step.id } as const;
  const items: Scope = scopes.of(owner, "items").scope;
  const rounds: Scope = scopes.of(owner, "rounds").scope;
  const here = useNamesHere();
  const round = d.turn && sampleAt(d.turn, step.id, true);
  const inRound = d.turn && round ? d.turn.names(round.scope) : null;
  const { over, gather, atOnce } = step;
  const pick = (what: string) => {
    if (what === "lines") put({ over: { lines: lines[0]?.id ?? "" } });
    else if (what === "list") put({ over: { list: "" } });
    else put({ over: { times: "" }, gather: null, only: null });
  };
  let pace = "all";
  if (atOnce !== undefined) pace = atOnce === 1 ? "one" : "some";
  return (
    <div className="grid gap-1.5 text-sm">
      <label className={row}>
        <span className="text-soft">Goes through</span>
        <Select
          value={Object.keys(over)[0] ?? "list"}
          onPick={pick}
          options={[
            { value: "lines", label: "lines of the form" },
            { value: "list", label: "a list" },
            { value: "times", label: "so many times" },
          ]}
        />
      </label>
      {"lines" in over && (
        <label className={row}>
          <span className="text-soft">Line items</span>
          <Select
            value={over.lines}
            onPick={(id) => put({ over: { lines: id } })}
            empty={lines.length === 0 ? "The form has no line items" : "Choose…"}
            options={lines.map((f) => ({ value: f.id, label: f.name }))}
          />
        </label>
      )}
      {"list" in over && (
        <Formula label="List" placeholder="e.g. what a Find found, by its name">
          {(p) => (
            <FormulaCell
              {...p}
              value={over.list}
              scope={scope}
              wanted={listOf(ANY)}
              names={here}
              onCommit={(list) => put({ over: { list } })}
            />
          )}
        </Formula>
      )}
      {"times" in over && (
        <Formula label="How many times" placeholder="e.g. 3">
          {(p) => (
            <FormulaCell
              {...p}
              value={over.times}
              scope={scope}
              wanted={NUMBER}
              names={here}
              onCommit={(times) => put({ over: { times } })}
            />
          )}
        </Formula>
      )}
      <Name label="Each is called" value={step.item} onName={(item) => put({ item })} />
      {!("times" in over) && (
        <>
          <Formula label="Only where" placeholder={`every one, or e.g. ${step.item} != null`}>
            {(p) => (
              <FormulaCell
                {...p}
                value={step.only ?? ""}
                scope={items}
                wanted={YESNO}
                onCommit={(only) => put({ only: only || null })}
              />
            )}
          </Formula>
          <Formula label="One round per" placeholder="each on its own">
            {(p) => (
              <FormulaCell
                {...p}
                value={gather?.by ?? ""}
                scope={items}
                wanted={ANY}
                onCommit={(by) => put({ gather: by ? { by, as: gather?.as ?? "Shared" } : null })}
              />
            )}
          </Formula>
          {gather && (
            <Name
              label="That is called"
              value={gather.as}
              onName={(as) => put({ gather: { ...gather, as } })}
            />
          )}
        </>
      )}
      <label className={row}>
        <span className="text-soft">At a time</span>
        <span className="flex items-center gap-2">
          <Select
            aria-label="How many rounds at a time"
            value={pace}
            onPick={(p) => put({ atOnce: PACES[p as keyof typeof PACES] })}
            options={[
              { value: "all", label: "all at once" },
              { value: "one", label: "one after another" },
              { value: "some", label: "at most so many" },
            ]}
          />
          {pace === "some" && (
            <TextCell
              className="input w-20"
              inputMode="numeric"
              aria-label={`At most how many at a time, up to ${MOST_ROUNDS}`}
              value={String(atOnce)}
              onCommit={(t) => {
                const n = Number(t.trim());
                if (!/^\d{1,4}$/.test(t.trim()) || n < 1 || n > MOST_ROUNDS) return false;
                put({ atOnce: n });
                return true;
              }}
            />
          )}
        </span>
      </label>
      {atOnce !== undefined && (
        <label className={row}>
          <span className="text-soft">When one is stuck</span>
          <Select
            value={step.stuckHolds ? "hold" : "on"}
            onPick={(v) => put({ stuckHolds: v === "hold" ? true : null })}
            options={[
              { value: "on", label: "the next goes on" },
              { value: "hold", label: "the next waits for it" },
            ]}
          />
        </label>
      )}
      <Formula label="No more when" placeholder="all are gone through">
        {(p) => (
          <FormulaCell
            {...p}
            value={step.until ?? ""}
            scope={rounds}
            wanted={YESNO}
            names={inRound}
            onCommit={(until) => put({ until: until || null })}
          />
        )}
      </Formula>
      <Formula label="Each leaves behind" placeholder="nothing">
        {(p) => (
          <FormulaCell
            {...p}
            value={step.collect ?? ""}
            scope={rounds}
            wanted={ANY}
            names={inRound}
            onCommit={(collect) => put({ collect: collect || null })}
          />
        )}
      </Formula>
      <p className="text-soft">
        In a round formulas read <Mono>{gather ? gather.as : step.item}</Mono>
        {gather && (
          <>
            , <Mono>{step.item}</Mono> (the list of those)
          </>
        )}
        , <Mono>{step.item} number</Mono> and <Mono>{step.item} count</Mono>
        {step.collect && (
          <>
            ; afterwards what was left behind is the list <Mono>{step.name}</Mono>
          </>
        )}
        .
      </p>
    </div>
  );
}

const Mono = ({ children }: { children: React.ReactNode }) => <span className="font-mono">{children}</span>;

function Formula(p: {
  label: string;
  placeholder: string;
  children(cell: { label: string; placeholder: string }): React.ReactNode;
}) {
  return (
    <div className={row}>
      <span className="text-soft">{p.label}</span>
      {p.children({ label: p.label, placeholder: p.placeholder })}
    </div>
  );
}

function Name(p: { label: string; value: string; onName(name: string): boolean }) {
  return (
    <label className={row}>
      <span className="text-soft">{p.label}</span>
      <TextCell
        className="input"
        aria-label={p.label}
        value={p.value}
        onCommit={(t) => (t.trim() ? p.onName(t.trim()) : false)}
      />
    </label>
  );
}

/** The head of its rounds. */
function ListHead({ step, list }: ListHeadProps<"for each">) {
  return (
    <span className="text-sm text-soft">
      each {step.gather?.as ?? step.item}
      {list.steps.length === 0 && <span className="text-faint">: no steps yet</span>}
    </span>
  );
}

function Sentence(p: SentenceProps<"for each">) {
  return (
    <>
      <StepName step={p.step} />
      <OverChip {...p} />
    </>
  );
}

export const view: StepView<"for each"> = { icon: Repeat, Sentence, ListHead };
