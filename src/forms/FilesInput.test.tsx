import { act, fireEvent, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import type { Field, FileFacts } from "@/core/form";
import { FilesInput } from "./FilesInput";
import type { InputContext } from "./inputContext";
import { sendFile, type Sending } from "./sendFile";

jest.mock("./sendFile", () => ({ sendFile: jest.fn() }));
jest.mock("./FilePreview", () => ({ __esModule: true, default: () => null }));

type End = Awaited<Sending["done"]>;
let ends: ((r: End) => void)[];
const cancelled: string[] = [];
beforeEach(() => {
  ends = [];
  cancelled.length = 0;
  jest
    .mocked(sendFile)
    .mockReset()
    .mockImplementation((file) => {
      let end: (r: End) => void;
      const done = new Promise<End>((r) => (end = r));
      ends.push(end!);
      return {
        done,
        cancel: () => {
          cancelled.push(file.name);
          end({ ok: false, sentence: "" });
        },
      };
    });
});

const field: Field = { id: "p", name: "Papers", kind: "files", options: ["pdf"], max: "1" };
const picked = (name: string, bytes = 10) => new File([new Uint8Array(bytes)], name);
function show(ids: string[] = []) {
  const busy: number[] = [];
  let now: readonly string[] = ids;
  let put: (ids: string[]) => void = () => undefined;
  function Held() {
    const [value, set] = useState<readonly string[]>(ids);
    const [files, learn] = useState<Record<string, FileFacts>>(
      Object.fromEntries(ids.map((id) => [id, { id, name: `${id}.pdf`, size: 10, type: "x", at: 0 }])),
    );
    now = value;
    put = set;
    const context = {
      facts: { people: {}, registers: {}, records: {}, files },
      busy: (by: number) => busy.push(by),
      learnFile: (f: FileFacts) => learn((all) => ({ ...all, [f.id]: f })),
    } as unknown as InputContext;
    return (
      <FilesInput
        field={field}
        id="p"
        label="Papers"
        ids={value}
        context={context}
        invalid={false}
        onChange={set}
      />
    );
  }
  const { unmount } = render(<Held />);
  return { busy, now: () => now, put: (v: string[]) => act(() => put(v)), unmount };
}
const choose = (...files: File[]) =>
  fireEvent.change(document.querySelector("input[type=file]")!, { target: { files } });
const arrive = (i: number, id: string) =>
  act(async () => ends[i]!({ ok: true, file: { id, name: `${id}.pdf`, size: 10, type: "x", at: 0 } }));
const waiting = () => screen.queryAllByRole("progressbar").map((x) => x.getAttribute("aria-label"));

it("sends them one after the other, and keeps each as it arrives, in their order", async () => {
  const f = show(["old"]);
  choose(picked("1.pdf"), picked("2.pdf"), picked("3.pdf"));
  expect(waiting()).toEqual(["Sending 1.pdf", "Sending 2.pdf", "Sending 3.pdf"]);
  expect(screen.getAllByText(/, waiting$/)).toHaveLength(2);
  expect(ends).toHaveLength(1);
  await arrive(0, "a");
  expect(f.now()).toEqual(["old", "a"]);
  // What was removed meanwhile stays so.
  f.put(["a"]);
  await arrive(1, "b");
  await arrive(2, "c");
  expect(f.now()).toEqual(["a", "b", "c"]);
  expect(waiting()).toEqual([]);
  expect(f.busy.reduce((n, by) => n + by, 0)).toBe(0);
  // And again, once none is under way any more.
  choose(picked("4.pdf"));
  await arrive(3, "d");
  expect(f.now()).toEqual(["a", "b", "c", "d"]);
});

it("goes on past one that fails or is stopped, and says which failed", async () => {
  const f = show();
  choose(picked("1.pdf"), picked("2.pdf"), picked("3.pdf"), picked("4.pdf"));
  await userEvent.click(screen.getByRole("button", { name: "Stop sending 3.pdf" }));
  await userEvent.click(screen.getByRole("button", { name: "Stop sending 1.pdf" }));
  expect(cancelled).toEqual(["1.pdf"]);
  await act(async () => ends[1]!({ ok: false, sentence: "2.pdf did not get through." }));
  expect(screen.getByText("2.pdf did not get through.")).toBeTruthy();
  await arrive(2, "four");
  expect(f.now()).toEqual(["four"]);
  expect(jest.mocked(sendFile).mock.calls.map(([x]) => x.name)).toEqual(["1.pdf", "2.pdf", "4.pdf"]);
  expect(f.busy.reduce((n, by) => n + by, 0)).toBe(0);
});

it("leaves out what does not fit, says of each why, and takes the others", async () => {
  show(["old"]);
  choose(
    picked("run.exe"),
    picked("none.pdf", 0),
    picked("big.pdf", 999_991),
    picked("fits.pdf", 999_990),
    picked("more.pdf", 1),
  );
  expect(waiting()).toEqual(["Sending fits.pdf"]);
  const said = [...screen.getByRole("status").children].map((x) => x.textContent);
  expect(said).toEqual([
    '“run.exe”: Papers takes these kinds of files: pdf; "run.exe" is another.',
    '"none.pdf" is empty.',
    "“big.pdf” is left out. Papers takes files of up to 1 MB together; these have 1.1 MB.",
    "“more.pdf” is left out. Papers takes files of up to 1 MB together; these have 1.1 MB.",
  ]);
  // What is on its way counts.
  choose(picked("late.pdf"));
  expect(waiting()).toEqual(["Sending fits.pdf"]);
});

it("keeps what comes and what goes in one moment, before either is drawn", async () => {
  const f = show(["a", "b"]);
  choose(picked("1.pdf"));
  await act(async () => {
    screen.getByRole("button", { name: "Remove a.pdf" }).click();
    ends[0]!({ ok: true, file: { id: "c", name: "c.pdf", size: 10, type: "x", at: 0 } });
  });
  expect(f.now()).toEqual(["b", "c"]);
});

it("is taken out one by one, and takes all that is on its way with it when it goes", async () => {
  const f = show(["a", "b"]);
  await userEvent.click(screen.getByRole("button", { name: "Remove a.pdf" }));
  expect(f.now()).toEqual(["b"]);
  expect(document.activeElement).toBe(screen.getByRole("button", { name: "Papers: add more files" }));
  choose(picked("1.pdf"), picked("2.pdf"));
  f.unmount();
  await act(async () => undefined);
  expect(cancelled).toEqual(["1.pdf"]);
  expect(sendFile).toHaveBeenCalledTimes(1);
  expect(f.busy.reduce((n, by) => n + by, 0)).toBe(0);
});
