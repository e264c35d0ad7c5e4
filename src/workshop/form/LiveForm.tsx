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
import { accessAt, START } from "@/core/route";
import { FormView, type FormAsk, type FormSource } from "@/forms";
import { Button, classes, Select } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { newId } from "../parts";
import { accessSteps } from "./AccessCells";
import { ShownHere } from "./ShownHere";

const NOTHING: FormData = {};

/** The form as its people will see it, over the chosen sample; typing in it recalculates for real. */
export function LiveForm({ chosen, onChoose }: { chosen: string | null; onChoose(id: string): void }) {
  const d = useDraft();
  const [step, setStep] = useState(START);
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
  const source: FormSource = useMemo(() => {
    const prepared = prepareForm(definition.fields, { registers: d.office.registers, kinds: KINDS }).form;
    const whole = evaluateForm(
      compileForm(prepared, KINDS.fields),
      asFilledIn,
      () => "see",
      d.facts,
      d.turn?.extraNames(),
    );
    const reader = formForReader(prepared, whole, accessAt(definition, at), () => false);
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
      ...(definition.forms?.[at] ? { layout: definition.forms[at] } : {}),
    };
  }, [definition, d.office.registers, d.factsData, d.facts, d.turn, asFilledIn, d.now, requester, at]);
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
        <label htmlFor="live-step" className="text-soft">
          At
        </label>
        <Select
          id="live-step"
          className="!min-h-7 !w-auto max-w-36 !py-0"
          value={at}
          onPick={(value) => setStep(value)}
          options={steps.map((s) => ({ value: s.id, label: `${s.number} ${s.name}` }))}
        />
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
      <div
        className={classes(
          "max-h-[calc(100vh-15.5rem)] overflow-y-auto border border-line bg-sheet p-4",
          phone && "mx-auto max-w-[390px]",
        )}
      >
        {definition.fields.length === 0 ? (
          <p className="text-soft">The form appears here as you write its rows.</p>
        ) : (
          <FormView
            source={source}
            data={typed}
            onChange={setTyped}
            lookUp={lookUp}
            ask={ask}
            onFile={d.learnFile}
            width="phone"
            chosen={chosen}
            onChoose={onChoose}
            // A guided form is begun anew where its pages are others.
            key={definition.forms?.[at]?.shows ?? ""}
            shows="together"
          />
        )}
      </div>
    </section>
  );
}
