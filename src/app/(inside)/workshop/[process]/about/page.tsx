"use client";
import { About } from "@/workshop";

export default function Page() {
  return <About />;
}
