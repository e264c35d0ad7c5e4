import { labelOf } from "@/core/form";
import { Button } from "@/ui";
import type { FieldView } from "../input";
import { SignatureRead } from "./SignatureRead";
import { SignHere } from "./SignHere";

export const view: FieldView = {
  Input({ field, id, label, value, context, invalid, describedBy, onChange }) {
    const file = typeof value === "string" && value !== "" ? context.facts.files?.[value] : undefined;
    // Whatever stands there that is not known any more is signed anew.
    const drawn = file === undefined ? null : file;
    return (
      <div role="group" aria-labelledby={`${id}-label`} aria-describedby={describedBy}>
        {drawn ? (
          <SignatureRead
            label={label}
            file={drawn.id}
            name={drawn.name}
            signed={context.signed[field.id]}
            zone={context.zone}
            again={
              <Button small id={id} onClick={() => onChange(null)} aria-label={`${label}: sign anew`}>
                Sign anew
              </Button>
            }
          />
        ) : (
          <SignHere
            id={id}
            label={label}
            invalid={invalid}
            busy={context.busy}
            onSigned={(f) => {
              context.learnFile(f);
              onChange(f.id);
            }}
          />
        )}
      </div>
    );
  },
  Reading: ({ field, value, context }) => (
    <SignatureRead
      label={labelOf(field)}
      file={value}
      name={context.facts.files?.[value]?.name ?? null}
      signed={context.signed[field.id]}
      zone={context.zone}
    />
  ),
  shown: (v, _, facts) =>
    facts.files?.[v]?.name.replace(/\.png$/, "") ?? "a signature that is not there any more",
  href: (v) => `/api/files/${v}`,
  figures: false,
  grouped: true,
};
