"use client";
import { lazy } from "react";

/** Loaded where pages are looked at. */
export const LazyPdfPages = lazy(() => import("./PdfPages"));
