import { createHmac } from "node:crypto";
import { digestOf, signatureMistake } from "./signature";

const KEY = "a key";
const BODY = Buffer.from('{"a":1}');
const NOW = 1_800_000_000;
const params = (created: number) =>
  `("@method" "@path" "content-digest");created=${created};keyid="chat";alg="hmac-sha256"`;
function headersFor({ created = NOW, path = "/p", digest = digestOf(BODY), key = KEY } = {}) {
  const base = `"@method": POST\n"@path": ${path}\n"content-digest": ${digest}\n"@signature-params": ${params(created)}`;
  return {
    "content-digest": digest,
    "signature-input": `call=${params(created)}`,
    signature: `call=:${createHmac("sha256", key).update(base).digest("base64")}:`,
  } as Record<string, string>;
}
const mistake = (
  headers: Record<string, string>,
  more: { method?: string; path?: string; body?: Buffer } = {},
) =>
  signatureMistake(
    { method: "POST", path: "/p", body: BODY, header: (n) => headers[n] ?? null, ...more },
    KEY,
    NOW,
  );

it("takes what was signed with the key, over that method, path and body, at about this time", () => {
  expect(mistake(headersFor())).toBeNull();
  expect(mistake(headersFor({ created: NOW - 300 }))).toBeNull();
  expect(mistake(headersFor({ created: NOW - 301 }))).toBe("old");
  expect(mistake(headersFor({ created: NOW + 301 }))).toBe("old");
  expect(mistake(headersFor(), { method: "PUT" })).toBe("wrong");
  expect(mistake(headersFor(), { path: "/p/" })).toBe("wrong");
  expect(mistake(headersFor(), { body: Buffer.from('{"a":2}') })).toBe("changed");
  expect(mistake(headersFor({ key: "another" }))).toBe("wrong");
});

it("is as RFC 9530 writes digests", () => {
  // Appendix B of the standard: the digest of this body, sha-256.
  expect(digestOf(Buffer.from('{"hello": "world"}\n'))).toBe(
    "sha-256=:RK/0qy18MlBSVnWgjwz6lZEWjP/lF5HF9bvEF8FabDg=:",
  );
});

it("leaves nothing to be chosen by who calls", () => {
  const good = headersFor();
  for (const input of [
    'call=("@method" "@path");created=1;keyid="chat";alg="hmac-sha256"',
    good["signature-input"]!.replace("hmac-sha256", "none"),
    `${good["signature-input"]!};expires=9`,
    good["signature-input"]!.replace("call=", "other="),
    "",
  ])
    expect(mistake({ ...good, "signature-input": input })).toBe("unsigned");
  for (const signature of ["", "call=::", "call=:%%:", good["signature"]!.replace("call", "x")])
    expect(mistake({ ...good, signature })).toBe("unsigned");
  expect(mistake({ ...good, signature: "call=:AAAA:" })).toBe("wrong");
});
