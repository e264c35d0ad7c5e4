"use client";
import { TablesSheet } from "@/workshop";

export default function Page() {
  return <TablesSheet />;
}
