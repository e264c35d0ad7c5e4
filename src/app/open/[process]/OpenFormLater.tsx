"use client";
import dynamic from "next/dynamic";

const Opening = () => (
  <p className="text-soft" role="status">
    The form opens…
  </p>
);

/**
 * The form, once the page is there: what works it out is as much again as all that shows a page, and whoever comes by a
 * slow line reads meanwhile whose form it is and what for. Nothing is to be typed before it lives, so nothing typed is lost.
 */
export const OpenFormLater = dynamic(() => import("./OpenForm").then((m) => m.OpenForm), {
  ssr: false,
  loading: Opening,
});
