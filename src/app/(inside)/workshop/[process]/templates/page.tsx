"use client";
import { TemplatesSheet } from "@/workshop";

export default function Page() {
  return <TemplatesSheet />;
}
