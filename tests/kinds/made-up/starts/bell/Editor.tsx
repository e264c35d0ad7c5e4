"use client";
import type { StartEditorProps } from "@/starts/editor";

export const Editor = ({ start }: StartEditorProps<"bell">) => <span>{start.rings}</span>;
