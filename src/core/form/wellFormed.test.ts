import { wellFormed, withoutUnfit } from "./wellFormed";

it.each([
  ["plain", true],
  ["Größe 😀 ", true],
  ["a\0b", false],
  ["half \ud83d", false],
  [{ a: ["x", { b: "\udc00" }] }, false],
  [{ "\0": 1 }, false],
  [{ a: [1, null, true, Buffer.from([0, 0xd8])] }, true],
])("%j can be kept: %p", (v, yes) => expect(wellFormed(v)).toBe(yes));

it("leaves out only what cannot be kept", () => expect(withoutUnfit("a\0b\ud83d😀")).toBe("ab😀"));
