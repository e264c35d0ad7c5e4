"use client";
import { KINDS } from "@/kinds";
import { useCallback, useDeferredValue, useEffect, useMemo, useState } from "react";
import {
  compileForm,
  evaluateForm,
  findField,
  formForReader,
  personParty,
  prepareForm,
  type FormData,
  type FormQuestion,
  type StoredRecord,
} from "@/core/form";
import { sampleAt, whoWouldBeAsked } from "@/core/engine";
import { stepKind } from "@/core/kinds";
import { accessAt, placesOf, START, type ProcessDefinition } from "@/core/route";
import { FormView, type FormAsk, type FormSource } from "@/forms";
import { Button, classes, Select } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { distinct, newId } from "../parts";
import { accessSteps } from "./AccessCells";
import { personsView, sightText } from "./personsView";
import { ShownHere } from "./ShownHere";

const NOTHING: FormData = {};
/** Somebody who is neither asked nor asks, nor owns the process. */
const ANYBODY = "anybody else";

/** The form as its people will see it, over the chosen sample; typing in it recalculates for real. */
export function LiveForm({ chosen, onChoose }: { chosen: string | null; onChoose(id: string): void }) {
  const d = useDraft();
  const [step, setStep] = useState(START);
  const [person, setPerson] = useState("");
  const [phone, setPhone] = useState(false);
  const asFilledIn = d.turn?.state.data ?? NOTHING;
  const [typed, setTyped] = useState<FormData>(asFilledIn);
  const sampleId = d.sample?.id;
  useEffect(() => {
    setTyped(asFilledIn);
    // Only another sample starts over: typing must survive every other change of the draft.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [sampleId]);
  const definition = useDeferredValue(d.definition);
  const steps = useMemo(() => accessSteps(definition), [definition]);
  const at = steps.some((s) => s.id === step) ? step : START;
  const requester = d.sample?.requester ?? d.definition.owners[0] ?? "";
  const asked = useAsked(definition, at);
  // Whom there is something to see for: others see what nobody does.
  const eyes = distinct([...(asked ?? []), requester, ...definition.owners]).filter((p) => p !== "");
  const by = person === ANYBODY || eyes.includes(person) ? person : "";
  const sight = useMemo(
    () => (by === "" ? null : personsView(definition, { step: at, requester, asked: asked ?? [] }, by)),
    [asked, at, by, definition, requester],
  );
  const nameOf = (id: string) => d.factsData.people[id]?.name ?? id;
  const source: FormSource = useMemo(() => {
    const prepared = prepareForm(definition.fields, { registers: d.office.registers, kinds: KINDS }).form;
    const whole = evaluateForm(
      compileForm(prepared, KINDS.fields),
      asFilledIn,
      () => "see",
      d.facts,
      d.turn?.extraNames(),
    );
    const access = sight && sight.as !== "nobody" ? sight.access : accessAt(definition, at);
    const reader = formForReader(prepared, whole, access, () => false);
    return {
      form: reader.form,
      access: reader.access,
      failed: reader.failed,
      facts: d.factsData,
      now: d.now,
      zone: "Europe/Dublin",
      requester: personParty(requester),
      number: "",
      before: at === START ? NOTHING : asFilledIn,
      // Whoever only reads it reads all of it, as on the page of the request.
      ...(definition.forms?.[at] && sight?.as !== "reads" ? { layout: definition.forms[at] } : {}),
    };
  }, [definition, d.office.registers, d.factsData, d.facts, d.turn, asFilledIn, d.now, requester, at, sight]);
  const lookUp = useCallback(
    async (register: string, search: string) => {
      const found = await d.lookUp(register, search);
      for (const f of found) d.learn(register, f.record);
      return found;
    },
    [d],
  );
  const ask: FormAsk = async (data, question) => {
    const a = await d.ask(sampleId ?? "", at, data, question);
    for (const o of a.offered) if (o.record) learnOffered(question, o.record);
    return a;
  };
  // What is picked is read by the sheet as well.
  const learnOffered = (question: FormQuestion, record: StoredRecord) => {
    const field =
      question.ask === "offered" ? findField(definition.fields, question.field)?.field : undefined;
    if (field?.register) d.learn(field.register, record);
  };
  const keep = () => {
    const name = `Sample ${d.definition.samples.length + 1}`;
    const id = newId(name, (x) => d.definition.samples.some((s) => s.id === x));
    if (
      d.edit({
        op: "sample.put",
        after: d.definition.samples.at(-1)?.id ?? null,
        sample: { id, name, requester, data: typed },
      })
    )
      d.setSample(id);
  };
  return (
    <section aria-label="Live form" className="h-full pl-4">
      <div className="mb-2 flex flex-wrap items-center gap-2 text-sm">
        <span className="inline-flex items-center gap-2">
          <label htmlFor="live-step" className="text-soft">
            At
          </label>
          <Select
            id="live-step"
            className="!min-h-7 !w-auto max-w-40 !py-0"
            value={at}
            onPick={(value) => setStep(value)}
            options={steps.map((s) => ({ value: s.id, label: `${s.number} ${s.name}` }))}
          />
        </span>
        <span className="inline-flex items-center gap-2">
          <label htmlFor="live-person" className="text-soft">
            as
          </label>
          <Select
            id="live-person"
            className="!min-h-7 !w-auto max-w-40 !py-0"
            value={by}
            empty="whoever is asked"
            onPick={setPerson}
            options={[
              ...eyes.map((id) => ({ value: id, label: nameOf(id) })),
              { value: ANYBODY, label: "anybody else" },
            ]}
          />
        </span>
        <ShownHere step={at} />
        <Button
          small
          look="quiet"
          aria-pressed={phone}
          className={phone ? "!bg-slate-wash" : ""}
          onClick={() => setPhone(!phone)}
        >
          Phone
        </Button>
        <Button small look="quiet" onClick={keep}>
          Keep as sample
        </Button>
      </div>
      <p role="status" className="mb-2 text-sm text-soft">
        {sight ? sightText(sight, nameOf(by), at === START) : askedText(asked, nameOf)}
      </p>
      <div
        className={classes(
          "max-h-[calc(100vh-17.5rem)] overflow-y-auto border border-line bg-sheet p-4",
          phone && "mx-auto max-w-[390px]",
        )}
      >
        {definition.fields.length === 0 && (
          <p className="text-soft">The form appears here as you write its rows.</p>
        )}
        {sight?.as === "nobody" && <p className="text-soft">Nothing is shown.</p>}
        {definition.fields.length > 0 && sight?.as !== "nobody" && (
          <FormView
            source={source}
            data={typed}
            {...(sight?.as === "reads" ? {} : { onChange: setTyped })}
            lookUp={lookUp}
            ask={ask}
            onFile={d.learnFile}
            width="phone"
            chosen={chosen}
            onChoose={onChoose}
            // A guided form is begun anew where its pages are others.
            key={`${definition.forms?.[at]?.shows ?? ""} ${by}`}
            shows="together"
          />
        )}
      </div>
    </section>
  );
}

/** Whom a step asks for the sample; null where that is not known, and for the start, which whoever asks fills in. */
function useAsked(definition: ProcessDefinition, at: string): readonly string[] | null {
  const turn = useDraft((d) => d.turn);
  return useMemo(() => {
    const step = placesOf(definition, KINDS).get(at)?.step;
    const who = step && stepKind(KINDS, step).asks?.who(step);
    const here = turn && who ? sampleAt(turn, at) : null;
    const asked = turn && who && here ? whoWouldBeAsked(turn, here, who) : null;
    return asked && !("go" in asked) ? asked.map((c) => c.person) : null;
  }, [definition, turn, at]);
}

function askedText(asked: readonly string[] | null, nameOf: (id: string) => string): string {
  if (!asked) return "";
  if (asked.length === 0) return "For the sample nobody is found here.";
  const first = asked.slice(0, 3).map(nameOf).join(", ");
  return `For the sample this asks ${first}${asked.length > 3 ? ` and ${asked.length - 3} more` : ""}.`;
}
