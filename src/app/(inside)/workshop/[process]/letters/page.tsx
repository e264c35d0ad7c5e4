"use client";
import { LettersSheet } from "@/workshop";

export default function Page() {
  return <LettersSheet />;
}
