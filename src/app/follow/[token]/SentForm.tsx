"use client";
import { FilesAtProvider, FormView, type FormSource } from "@/forms";
import type { FormData } from "@/core/form";
import { openLookUpAction } from "../../actions/outside";
import { usePhone } from "../../shell/usePhone";

/** What somebody sent, to be read. */
export function SentForm({ token, source }: { token: string; source: FormSource & { data: FormData } }) {
  const phone = usePhone();
  return (
    <FilesAtProvider value={{ to: `/api/follow/${token}/files` }}>
      <FormView
        source={source}
        data={source.data}
        lookUp={openLookUpAction}
        width={phone ? "phone" : "desk"}
      />
    </FilesAtProvider>
  );
}
