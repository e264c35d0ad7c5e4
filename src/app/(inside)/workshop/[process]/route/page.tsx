"use client";
import { RouteSheet } from "@/workshop";

export default function Page() {
  return <RouteSheet />;
}
