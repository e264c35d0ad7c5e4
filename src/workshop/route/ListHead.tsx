"use client";
import { YESNO, type Scope } from "@/core/expression";
import { placesOf, type Answer, type Step } from "@/core/process";
import { classes } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { FormulaCell } from "../draft/FormulaCell";
import { newId } from "../draft/newId";
import { TextCell } from "../draft/TextCell";
import { Chip } from "./Chip";
import { wayOn } from "./rows";
import { ToneSelect } from "./StepSentence";

/** The head of an answer, a way or a branch: what it is called, when it is taken, and where it leads. */
export function ListHead({ owner, list, scope }: { owner: Step; list: string; scope: Scope }) {
  const d = useDraft();
  const names = d.turn?.names() ?? null;
  switch (owner.kind) {
    case "decide": {
      const answer = owner.answers.find((a) => a.id === list)!;
      const put = (next: Answer) =>
        d.edit({
          op: "step.put",
          step: { ...owner, answers: owner.answers.map((a) => (a.id === list ? next : a)) },
        });
      return (
        <span className="flex flex-wrap items-baseline gap-x-1.5">
          <Chip text={answer.label} label="Answer">
            {() => (
              <div className="grid gap-2">
                <TextCell
                  className="input"
                  autoFocus
                  aria-label="Words of the answer"
                  value={answer.label}
                  onCommit={(t) => (t.trim() ? put({ ...answer, label: t.trim() }) : false)}
                />
                <ToneSelect value={answer.tone} onChange={(tone) => put({ ...answer, tone })} />
                <label className="flex items-center gap-2 text-sm">
                  <input
                    type="checkbox"
                    className="size-4 accent-[var(--moss)]"
                    checked={answer.note === "must"}
                    onChange={(e) =>
                      put(e.target.checked ? { ...answer, note: "must" } : strip(answer, "note"))
                    }
                  />{" "}
                  needs a note that says why
                </label>
                <label className="flex items-center gap-2 text-sm">
                  <input
                    type="checkbox"
                    className="size-4 accent-[var(--moss)]"
                    checked={answer.returns ?? false}
                    onChange={(e) =>
                      put(
                        e.target.checked ? { ...answer, returns: true, steps: [] } : strip(answer, "returns"),
                      )
                    }
                  />{" "}
                  goes back to the requester for changes
                </label>
                <button
                  type="button"
                  className="justify-self-start text-sm text-brick underline"
                  onClick={() =>
                    d.edit({
                      op: "step.put",
                      step: { ...owner, answers: owner.answers.filter((a) => a.id !== list) },
                    })
                  }
                >
                  Remove this answer{answer.steps.length > 0 ? " and its steps" : ""}
                </button>
              </div>
            )}
          </Chip>
          {answer.note === "must" && <span className="text-sm text-soft">with a note</span>}
          <span aria-hidden>→</span>
          {answer.returns ? (
            <span className="text-soft">back to the requester, then here again</span>
          ) : (
            <WayOnChip steps={answer.steps} onPut={(steps) => put({ ...answer, steps })} />
          )}
        </span>
      );
    }
    case "choose": {
      const way = owner.ways.find((w) => w.id === list)!;
      const put = (next: typeof way) =>
        d.edit({
          op: "step.put",
          step: { ...owner, ways: owner.ways.map((w) => (w.id === list ? next : w)) },
        });
      return (
        <Conditional
          name={way.name}
          when={way.when}
          scope={scope}
          names={names}
          what="way"
          last={owner.ways.at(-1) === way}
          onName={(name) => put({ ...way, name })}
          onWhen={(when) => put(when ? { ...way, when } : strip(way, "when"))}
          onRemove={() =>
            d.edit({ op: "step.put", step: { ...owner, ways: owner.ways.filter((w) => w.id !== list) } })
          }
          tail={<WayOnChip steps={way.steps} onPut={(steps) => put({ ...way, steps })} />}
        />
      );
    }
    case "together": {
      const branch = owner.branches.find((b) => b.id === list)!;
      const put = (next: typeof branch) =>
        d.edit({
          op: "step.put",
          step: { ...owner, branches: owner.branches.map((b) => (b.id === list ? next : b)) },
        });
      return (
        <Conditional
          name={branch.name}
          when={branch.when}
          scope={scope}
          names={names}
          what="branch"
          last={false}
          onName={(name) => put({ ...branch, name })}
          onWhen={(when) => put(when ? { ...branch, when } : strip(branch, "when"))}
          onRemove={() =>
            d.edit({
              op: "step.put",
              step: { ...owner, branches: owner.branches.filter((b) => b.id !== list) },
            })
          }
          tail={branch.steps.length === 0 ? <span className="text-faint">no steps yet</span> : null}
        />
      );
    }
    default:
      return null;
  }
}

function strip<T extends object, K extends keyof T>(o: T, key: K): T {
  const { [key]: _gone, ...rest } = o;
  return rest as T;
}

function Conditional(p: {
  name: string;
  when: string | undefined;
  scope: Scope;
  names: Parameters<typeof FormulaCell>[0]["names"];
  what: string;
  last: boolean;
  onName(n: string): void;
  onWhen(w: string): void;
  onRemove(): void;
  tail: React.ReactNode;
}) {
  return (
    <span className="flex flex-wrap items-center gap-x-1.5">
      <Chip text={p.name} label={p.what}>
        {() => (
          <div className="grid gap-2">
            <TextCell
              className="input"
              autoFocus
              aria-label={`Name of the ${p.what}`}
              value={p.name}
              onCommit={(t) => (t.trim() ? p.onName(t.trim()) : false)}
            />
            <button
              type="button"
              className="justify-self-start text-sm text-brick underline"
              onClick={p.onRemove}
            >
              Remove this {p.what} and its steps
            </button>
          </div>
        )}
      </Chip>
      <span className="text-sm text-soft">{p.last && !p.when ? "for all others" : "when"}</span>
      {!(p.last && !p.when) && (
        <span className="inline-block min-w-56 max-w-full flex-1">
          <FormulaCell
            label={`${p.name}: when`}
            placeholder={p.what === "branch" ? "always" : "a condition"}
            value={p.when ?? ""}
            scope={p.scope}
            wanted={YESNO}
            {...(p.names ? { names: p.names } : {})}
            onCommit={p.onWhen}
          />
        </span>
      )}
      {p.tail && (
        <>
          <span aria-hidden>→</span>
          {p.tail}
        </>
      )}
    </span>
  );
}

/** Where an answer or way leads: on, to another step, to an end, or through steps of its own. */
function WayOnChip({ steps, onPut }: { steps: readonly Step[]; onPut(steps: Step[]): void }) {
  const d = useDraft();
  const places = placesOf(d.definition);
  const way = wayOn(steps);
  const text = !way
    ? `${steps.length} ${steps.length === 1 ? "step" : "steps"} of its own`
    : way.kind === "on"
      ? "goes on"
      : way.kind === "jump"
        ? `${places.get(way.to ?? "")?.number ?? "?"} ${places.get(way.to ?? "")?.step.name ?? "no step yet"}`
        : `ends as “${way.result}”`;
  const fresh = (stem: string) => newId(stem, (id) => places.has(id));
  const ends = [
    ...new Map(
      [...places.values()].flatMap((p) =>
        p.step.kind === "finish" ? [[`${p.step.result}|${p.step.tone}`, p.step] as const] : [],
      ),
    ).values(),
  ];
  const item = "w-full rounded px-2 py-1 text-left hover:bg-slate-wash";
  return (
    <Chip text={text} label="Leads to">
      {(close) => {
        const pick = (next: Step[]) => {
          onPut(next);
          close();
        };
        return (
          <div>
            {!way && (
              <p className="mb-2 text-sm text-soft">
                Choosing here replaces its {steps.length} steps; undo brings them back.
              </p>
            )}
            <button
              type="button"
              className={classes(item, way?.kind === "on" && "font-medium")}
              onClick={() => pick([])}
            >
              goes on with the next step
            </button>
            {ends.map(
              (s) =>
                s.kind === "finish" && (
                  <button
                    key={s.id}
                    type="button"
                    className={item}
                    onClick={() => pick([{ ...s, id: fresh("finish") }])}
                  >
                    ends as “{s.result}”
                  </button>
                ),
            )}
            <button
              type="button"
              className={item}
              onClick={() =>
                pick([
                  { id: fresh("finish"), name: "Finish", kind: "finish", result: "declined", tone: "refuse" },
                ])
              }
            >
              ends with a new result
            </button>
            <p className="mt-2 border-t border-line pt-2 text-sm text-soft">or goes to</p>
            {[...places.values()].map((p) => (
              <button
                key={p.step.id}
                type="button"
                className={classes(item, way?.to === p.step.id && "font-medium")}
                onClick={() => pick([{ id: fresh("jump"), name: "Jump", kind: "jump", to: p.step.id }])}
              >
                {p.number} {p.step.name}
              </button>
            ))}
          </div>
        );
      }}
    </Chip>
  );
}
