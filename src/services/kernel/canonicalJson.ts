import canonicalize from "canonicalize";

/** One text for one value, whatever order the properties of its objects were written in: RFC 8785. */
export const canonicalJson = (value: unknown): string => canonicalize(value) ?? "null";
