import { REQUESTS, type StoredRecord } from "@/core/form";
import { Picker } from "@/forms/parts";
import type { FieldView } from "../input";

export const view: FieldView = {
  Input({ id, label, value, context, invalid, compact, describedBy, onChange }) {
    const found = new Map<string, StoredRecord>();
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
        options={async (s) => {
          const all = await context.lookUp(REQUESTS, s);
          for (const r of all) found.set(r.id, r.record);
          return all.map((r) => ({ id: r.id, title: r.title }));
        }}
        onPick={(o) => {
          const request = o ? found.get(o.id) : undefined;
          if (request) context.learn(REQUESTS, request);
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
