"use client";
import { useSyncExternalStore } from "react";

const never = () => () => undefined;

/**
 * Whether a page has come alive in its browser. Until then what is typed into it is seen by nobody and lost: on a slow
 * line a form holds people back (`inert`) for that moment.
 */
export const useAlive = (): boolean =>
  useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
