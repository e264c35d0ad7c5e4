"use client";
import { useSyncExternalStore } from "react";

const QUERY = "(max-width: 640px)";
const subscribe = (notify: () => void) => {
  const media = window.matchMedia(QUERY);
  media.addEventListener("change", notify);
  return () => media.removeEventListener("change", notify);
};

/** Whether the window is as narrow as a phone. */
export const usePhone = (): boolean =>
  useSyncExternalStore(
    subscribe,
    () => window.matchMedia(QUERY).matches,
    () => false,
  );
