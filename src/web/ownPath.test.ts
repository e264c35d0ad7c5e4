import { ownPath } from "./ownPath";

it.each([
  ["/desk/LOAN-0042/t3", "/desk/LOAN-0042/t3"],
  ["/ask/store-key?draft=1#from", "/ask/store-key?draft=1#from"],
  ["/registers/../desk", "/desk"],
  ["/%09/evil.example", "/%09/evil.example"],
])("%s is ours", (from, to) => expect(ownPath(from)).toBe(to));

it.each([
  "",
  "desk",
  "//evil.example",
  "/\\evil.example",
  "\\\\evil.example",
  "/\t/evil.example",
  "/\n//evil.example",
  "/.//evil.example",
  "/x/..//evil.example",
  "/./\\evil.example",
  "https://evil.example/desk",
  "http://here.invalid@evil.example",
  "javascript:alert(1)",
  "http://[",
])("%j leads to the desk, and nowhere else", (from) => {
  expect(ownPath(from)).toBe("/desk");
  // Whatever comes out, a browser stays here.
  expect(new URL(ownPath(from), "https://ours.example").origin).toBe("https://ours.example");
});
