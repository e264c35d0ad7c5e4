"use client";
import type { FormData } from "@/core/form";
import { FormView, type FormSource } from "@/forms";
import { usePhone } from "../../../shell/usePhone";

export function RequestForm({ source }: { source: FormSource & { data: FormData } }) {
  const phone = usePhone();
  return (
    <FormView source={source} data={source.data} lookUp={async () => []} width={phone ? "phone" : "desk"} />
  );
}
