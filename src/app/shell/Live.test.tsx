import { act, render } from "@testing-library/react";
import { Live } from "./Live";

let path = "/desk";
const refresh = jest.fn();
jest.mock("next/navigation", () => {
  const router = { refresh: () => refresh() };
  return { usePathname: () => path, useRouter: () => router };
});
class Source {
  static all: Source[] = [];
  onmessage?: () => void;
  onopen?: () => void;
  closed = false;
  constructor(readonly url: string) {
    Source.all.push(this);
  }
  close() {
    this.closed = true;
  }
}
const open = () => Source.all.filter((s) => !s.closed).map((s) => decodeURIComponent(s.url.split("at=")[1]!));

beforeEach(() => {
  jest.useFakeTimers();
  refresh.mockClear();
  Source.all = [];
  path = "/desk";
  Object.assign(globalThis, { EventSource: Source });
});
afterEach(() => jest.useRealTimers());

it("looks again soon after a tick, once for several", () => {
  render(<Live />);
  for (let i = 0; i < 5; i++) Source.all[0]!.onmessage!();
  act(() => void jest.advanceTimersByTime(400));
  expect(refresh).toHaveBeenCalledTimes(1);
});

it("the desk looks again once it is listened for: a task may have come since it was fetched; a list need not", () => {
  const page = render(<Live />);
  Source.all[0]!.onopen!();
  act(() => void jest.advanceTimersByTime(400));
  expect(refresh).toHaveBeenCalledTimes(1);
  path = "/registers";
  page.rerender(<Live />);
  Source.all[1]!.onopen!();
  act(() => void jest.advanceTimersByTime(400));
  expect(refresh).toHaveBeenCalledTimes(1);
});

it("listens for the old page until the new one is listened for, however fast pages follow each other", () => {
  const page = render(<Live />);
  Source.all[0]!.onopen!();
  for (const next of ["/ask", "/requests/KEY-1"]) {
    path = next;
    page.rerender(<Live />);
  }
  expect(open()).toEqual(["/desk", "/ask", "/requests/KEY-1"]);
  Source.all[0]!.onmessage!();
  act(() => void jest.advanceTimersByTime(400));
  expect(refresh).toHaveBeenCalledTimes(1);
  Source.all[2]!.onopen!();
  expect(open()).toEqual(["/requests/KEY-1"]);
  // What happened to the request between its page being made and being listened for.
  act(() => void jest.advanceTimersByTime(400));
  expect(refresh).toHaveBeenCalledTimes(2);
  page.unmount();
  expect(open()).toEqual([]);
});
