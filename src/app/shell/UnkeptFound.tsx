import { Banner, Button } from "@/ui";
import type { Found } from "./useKept";

/** Says that what never reached the server is in the form again, or asks whether it is to be. */
export function UnkeptFound({ found }: { found: Found | null }) {
  if (!found) return null;
  if (found.back)
    return (
      <Banner tone="info">
        What you typed while the server could not be reached is here again, and kept from now on.
      </Banner>
    );
  const when = new Date(found.at).toLocaleString("en-IE", { dateStyle: "medium", timeStyle: "short" });
  return (
    <Banner tone="soon">
      <p>
        On {when} you typed something here that never reached the server. Since then this form has been kept
        otherwise, perhaps from another device.
      </p>
      <p className="mt-2 flex flex-wrap gap-2">
        <Button small onClick={found.take}>
          Put in what was typed then
        </Button>
        <Button small look="quiet" onClick={found.leave}>
          Leave the form as it is
        </Button>
      </p>
    </Banner>
  );
}
