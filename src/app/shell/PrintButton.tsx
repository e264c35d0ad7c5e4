"use client";
import { Printer } from "lucide-react";
import { Button } from "@/ui";

/** Has the browser print the page, as `print.css` lays it out. */
export const PrintButton = () => (
  <Button look="quiet" onClick={() => window.print()}>
    <Printer size={15} aria-hidden /> Print
  </Button>
);
