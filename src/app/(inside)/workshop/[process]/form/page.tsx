"use client";
import { FormSheet } from "@/workshop";

export default function Page() {
  return <FormSheet />;
}
