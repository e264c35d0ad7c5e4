"use client";
import type { ComponentProps } from "react";
import { VIEWS } from "@/kinds/views";
import { DraftProvider } from "./draft/DraftProvider";
import { KindViewsProvider } from "./parts";

/** A draft being designed, with how all kinds look on its sheets. */
export const WorkshopProvider = (p: ComponentProps<typeof DraftProvider>) => (
  <KindViewsProvider value={VIEWS}>
    <DraftProvider {...p} />
  </KindViewsProvider>
);
