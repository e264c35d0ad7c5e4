"use client";
import { Heading } from "lucide-react";
import type { StepOf } from "@/core/route";
import { StepName } from "@/workshop/parts";
import type { StepView } from "../view";

const Sentence = ({ step }: { step: StepOf<"part"> }) => <StepName step={step} />;

/** Its rows stand right under the heading: its one list has no line of its own on the sheet. */
const ListHead = () => null;

export const view: StepView<"part"> = { icon: Heading, Sentence, ListHead };
