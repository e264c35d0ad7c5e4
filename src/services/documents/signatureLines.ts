/** A picture that was drawn is called so; one that was typed is called by the name. */
const DRAWN = "Signature.png";

/** A signature that was given for the pages of a document. */
export interface Signature {
  /** Undefined where nothing is known of them any more. */
  by: { name: string; email: string } | undefined;
  /** The name of whom they stood in for; absent for nobody. */
  standsFor?: string | undefined;
  /** Epoch milliseconds. */
  at: number;
  zone: string;
  /** What the picture of it is called. */
  picture: string;
  /** The pages they were shown: SHA-256 (FIPS 180-4) of the PDF, in hexadecimal. */
  shown: { name: string; pages: number | null; sha256: string };
}

/** What the closing page of a signed document says of a signature: who, when, how, and of which pages. */
export function signatureLines({ by, standsFor, at, zone, picture, shown }: Signature): string[] {
  const typed = picture.replace(/\.png$/, "");
  const how = picture === DRAWN ? "Drawn on the screen" : `Typed as “${typed}”`;
  const pages = shown.pages === null ? "" : `, ${shown.pages} ${shown.pages === 1 ? "page" : "pages"}`;
  return [
    by ? `${by.name}${by.email ? `, ${by.email}` : ""}` : "Somebody who is not known any more",
    ...(standsFor === undefined ? [] : [`Standing in for ${standsFor}`]),
    `${when(at, zone)} (${zone})`,
    `${how}, signed in under this name`,
    `Shown to be signed: ${shown.name}${pages}`,
    `Fingerprint of those pages (SHA-256): ${shown.sha256}`,
  ];
}

/** To the second and with the offset: it is read long after, and elsewhere. */
const when = (at: number, zone: string): string =>
  new Intl.DateTimeFormat("en-IE", {
    weekday: "short",
    day: "numeric",
    month: "short",
    year: "numeric",
    hour: "2-digit",
    minute: "2-digit",
    second: "2-digit",
    timeZoneName: "longOffset",
    hourCycle: "h23",
    timeZone: zone,
  }).format(at);
