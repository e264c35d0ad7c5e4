import { act, renderHook } from "@testing-library/react";
import { useOpenDraft } from "./useOpenDraft";

const BEGINS = { wish: "A map" };
const open = () => renderHook(() => useOpenDraft("wishes", BEGINS));
beforeEach(() => localStorage.clear());

it("begins as the form does, with a visit nobody else has, and keeps nothing before something is typed", () => {
  const one = open().result.current;
  const two = open().result.current;
  expect(one.before).toBe(false);
  expect(one.now).toMatchObject({ name: "", email: "", data: BEGINS });
  expect(one.now!.visit).toMatch(/^[\w-]{43}$/);
  expect(one.now!.visit).not.toBe(two.now!.visit);
  expect(localStorage.length).toBe(0);
});

it("is there again when the page is opened anew, as the same visit", () => {
  const { result } = open();
  act(() => result.current.put({ name: "Ada" }));
  act(() => result.current.put({ data: { wish: "Another" } }));
  const { visit } = result.current.now!;
  const again = open().result.current;
  expect(again).toMatchObject({ before: true, now: { visit, name: "Ada", data: { wish: "Another" } } });
});

it("loses nothing of what is put in at once, as a browser does that knows its person", () => {
  const { result } = open();
  const { put } = result.current;
  act(() => {
    put({ name: "Ada" });
    put({ email: "ada@byrne.example" });
    put({ data: { wish: "Another" } });
  });
  expect(result.current.now).toMatchObject({
    name: "Ada",
    email: "ada@byrne.example",
    data: { wish: "Another" },
  });
});

it("begins anew once it is sent, as another visit, and on the next page too", () => {
  const { result } = open();
  act(() => result.current.put({ email: "ada@byrne.example" }));
  const { visit } = result.current.now!;
  act(() => result.current.clear());
  expect(result.current.now).toMatchObject({ email: "", data: BEGINS });
  expect(result.current.now!.visit).not.toBe(visit);
  expect(open().result.current.before).toBe(false);
});

it.each(["{", "null", "[]", '"x"', '{"visit":"short","name":"","email":"","data":{}}', '{"visit":1}'])(
  "takes what is none of ours for nothing: %s",
  (kept) => {
    localStorage.setItem("open wishes", kept);
    expect(open().result.current).toMatchObject({ before: false, now: { name: "", data: BEGINS } });
  },
);

it("goes on where the browser keeps nothing", () => {
  const refused = jest.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
    throw new Error("no room");
  });
  const { result } = open();
  act(() => result.current.put({ name: "Ada" }));
  expect(result.current.now!.name).toBe("Ada");
  refused.mockRestore();
});
