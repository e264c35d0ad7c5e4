import { addressFrom, addressText, keptAddress, type PostalAddress } from "@/core/form";
import { classes } from "@/ui";
import type { FieldView, InputProps } from "../input";

const NONE: PostalAddress = { lines: "", town: "", postcode: "", country: "" };
/** What browsers fill in by themselves (HTML, 4.10.18.7.1). */
const FILLED_BY = { town: "address-level2", postcode: "postal-code", country: "country-name" } as const;
const SAYS = { town: "Town", postcode: "Postcode", country: "Country" } as const;

function AddressField({ id, value, onChange, invalid, describedBy, label, compact }: InputProps) {
  const a = (typeof value === "string" ? addressFrom(value) : null) ?? NONE;
  const put = (part: keyof PostalAddress, text: string) => onChange(keptAddress({ ...a, [part]: text }));
  const small = (part: keyof typeof SAYS, width: string) => (
    <label className={classes("min-w-0 text-sm text-soft", width)}>
      {SAYS[part]}
      <input
        className="input mt-0.5"
        autoComplete={FILLED_BY[part]}
        aria-invalid={invalid || undefined}
        value={a[part]}
        onChange={(e) => put(part, e.target.value)}
      />
    </label>
  );
  return (
    <div
      role="group"
      aria-labelledby={compact ? undefined : `${id}-label`}
      aria-label={compact ? label : undefined}
      aria-describedby={describedBy}
      className="flex max-w-96 flex-wrap gap-2"
    >
      <label className="w-full text-sm text-soft">
        Street and number
        <textarea
          id={id}
          rows={2}
          className="input mt-0.5"
          autoComplete="street-address"
          aria-invalid={invalid || undefined}
          value={a.lines}
          onChange={(e) => put("lines", e.target.value)}
        />
      </label>
      {small("postcode", "w-28")}
      {small("town", "min-w-40 flex-1")}
      {small("country", "w-full")}
    </div>
  );
}

export const view: FieldView = {
  Input: (p) => <AddressField {...p} />,
  shown: (v) => {
    const a = addressFrom(v);
    return a ? addressText(a) : v;
  },
  figures: false,
  grouped: true,
};
