import { sendFile } from "./sendFile";

class Call {
  static last: Call;
  upload: { onprogress?: (e: { lengthComputable: boolean; loaded: number; total: number }) => void } = {};
  onload = () => {};
  onerror = () => {};
  onabort = () => {};
  status = 0;
  responseText = "";
  opened: unknown[] = [];
  sent: unknown;
  constructor() {
    Call.last = this;
  }
  open(...a: unknown[]) {
    this.opened = a;
  }
  setRequestHeader() {}
  send(body: unknown) {
    this.sent = body;
  }
  abort() {
    this.onabort();
  }
  answer(status: number, text: string) {
    this.status = status;
    this.responseText = text;
    this.onload();
  }
}
const real = globalThis.XMLHttpRequest;
beforeAll(() => void (globalThis.XMLHttpRequest = Call as unknown as typeof XMLHttpRequest));
afterAll(() => void (globalThis.XMLHttpRequest = real));

const file = new File(["abc"], "Ü & co.pdf");
const GONE = expect.stringContaining("did not get through");

it("sends the contents as they are, the name beside them, and tells how much has gone", async () => {
  const shares: number[] = [];
  const sending = sendFile(file, (s) => shares.push(s));
  expect(Call.last.opened).toEqual(["POST", "/api/files?name=%C3%9C+%26+co.pdf"]);
  expect(Call.last.sent).toBe(file);
  Call.last.upload.onprogress!({ lengthComputable: true, loaded: 1, total: 4 });
  Call.last.upload.onprogress!({ lengthComputable: false, loaded: 2, total: 0 });
  Call.last.answer(201, '{"id":"f1","name":"Ü & co.pdf","size":3,"type":"application/pdf","at":1}');
  expect(await sending.done).toMatchObject({ ok: true, file: { id: "f1", size: 3 } });
  expect(shares).toEqual([0.25]);
});

it.each<[string, () => void, unknown]>([
  [
    "the server's own sentence",
    () => Call.last.answer(422, '{"sentence":"\\"a.pdf\\" is empty."}'),
    '"a.pdf" is empty.',
  ],
  ["a plain one where the server gave none", () => Call.last.answer(500, "{}"), GONE],
  ["a plain one where something else answered", () => Call.last.answer(502, "<html>"), GONE],
  ["that the server cannot be reached", () => Call.last.onerror(), GONE],
])("says %s", async (_, happens, sentence) => {
  const sending = sendFile(file, () => undefined);
  happens();
  expect(await sending.done).toEqual({ ok: false, sentence });
});

it("stopping it says nothing: whoever stopped it knows", async () => {
  const sending = sendFile(file, () => undefined);
  sending.cancel();
  expect(await sending.done).toEqual({ ok: false, sentence: "" });
});
