"use client";
import { Flag } from "lucide-react";
import { StepName } from "@/workshop/parts";
import type { SentenceProps, StepView } from "@/steps/view";

const Sentence = ({ step }: SentenceProps<"ripen">) => <StepName step={step} />;
export const view: StepView<"ripen"> = { icon: Flag, Sentence };
