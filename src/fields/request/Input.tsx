import { REQUESTS } from "@/core/form";
import { Picker } from "@/forms/parts";
import type { FieldView } from "../input";

export const view: FieldView = {
  Input({ id, label, value, context, invalid, compact, describedBy, onChange }) {
    const is = typeof value === "string" && value !== "" ? value : null;
    return (
      <Picker
        id={id}
        label={label}
        value={is}
        shown={is ?? ""}
        invalid={invalid}
        {...(compact ? { compact } : {})}
        {...(describedBy ? { describedBy } : {})}
        options={(s) => context.lookUp(REQUESTS, s)}
        onPick={(o) => {
          if (o) context.learn(REQUESTS, o.record);
          onChange(o?.id ?? null);
        }}
      />
    );
  },
  shown: (v) => v,
  href: (v) => `/requests/${encodeURIComponent(v)}`,
  figures: false,
  grouped: false,
};
