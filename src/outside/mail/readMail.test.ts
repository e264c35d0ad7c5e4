import { deliver } from "../../../stand-ins/post/delivery";
import { NO_FAULTS } from "../../../stand-ins/post/faults";
import { readMail } from "./readMail";

const POST = "post.quillhaven.example";
const OWN = new Set(["walls@quillhaven.example"]);
const raw = (headers: Record<string, string>, text = "yes") =>
  Buffer.from(
    `${Object.entries({
      From: "Ada Wren <ada@x.example>",
      To: "walls@quillhaven.example",
      Subject: "S",
      ...headers,
    })
      .map(([k, v]) => `${k}: ${v}`)
      .join("\r\n")}\r\n\r\n${text}\r\n`,
  );
const read = (headers: Record<string, string>, text?: string, checksBy = POST) =>
  readMail(raw(headers, text), checksBy, OWN);
const vouched = async (results: string, checksBy = POST, from = "Ada <ada@x.example>") =>
  (await read({ "Authentication-Results": results, From: from }, "x", checksBy)).vouched;

it("believes of a sender only what the receiving server wrote under its own name, of the domain that is shown", async () => {
  expect(await vouched(`${POST}; dmarc=pass header.from=x.example`)).toBe(true);
  expect(await vouched(`${POST}; spf=pass; dmarc=pass`)).toBe(true);
  expect(await vouched(`${POST}; dmarc=fail header.from=x.example`)).toBe(false);
  expect(await vouched(`${POST}; dmarc=pass header.from=other.example`)).toBe(false);
  expect(await vouched(`${POST}; spf=pass`)).toBeNull();
  expect(await vouched("elsewhere.example; dmarc=pass header.from=x.example")).toBeNull();
  expect(await vouched(`${POST}.evil.example; dmarc=pass header.from=x.example`)).toBeNull();
  // No name to go by: nothing is believed.
  expect(await vouched(`${POST}; dmarc=pass header.from=x.example`, "")).toBeNull();
});

it("knows what programs write, and mail of its own", async () => {
  const by = async (headers: Record<string, string>) => (await read(headers)).automatic;
  expect(await by({})).toBeNull();
  expect(await by({ "Auto-Submitted": "no" })).toBeNull();
  expect(await by({ "Auto-Submitted": "auto-replied" })).toBe("automatic reply");
  expect(await by({ Precedence: "bulk" })).toBe("automatic reply");
  expect(await by({ "X-Auto-Response-Suppress": "OOF, AutoReply" })).toBe("automatic reply");
  expect(await by({ "List-Id": "<l.example>" })).toBe("list");
  expect(await by({ "Return-Path": "<>" })).toBe("report");
  expect(await by({ From: "MAILER-DAEMON@x.example" })).toBe("report");
  expect(await by({ From: "walls@quillhaven.example" })).toBe("own");
});

it("reads a report: which mail did not come to whom, and why; one that is only late is none", async () => {
  const got: Buffer[] = [];
  const folders = { deliver: (_: string, b: Buffer) => (got.push(b), "") } as never;
  const sent = Buffer.from(
    "From: walls@quillhaven.example\r\nMessage-ID: <a1@quillhaven.example>\r\nSubject: S\r\n\r\nx\r\n",
  );
  const mail = { raw: sent, from: "walls@quillhaven.example", to: ["moved@x.example"], signedIn: null };
  await deliver(folders, NO_FAULTS, mail);
  const report = await readMail(got[0]!, POST, OWN);
  expect(report.automatic).toBe("report");
  expect(report.bounces).toEqual([
    {
      about: "<a1@quillhaven.example>",
      email: "moved@x.example",
      why: "550 5.1.1 The mailbox is not there any more",
    },
  ]);
  expect(report.files).toEqual([]);
  const late = Buffer.from(got[0]!.toString("latin1").replace("Action: failed", "Action: delayed"), "latin1");
  expect((await readMail(late, POST, OWN)).bounces).toEqual([]);
});

it("tells the same mail as the same however it came, and another as another", async () => {
  const of = async (headers: Record<string, string>, text?: string) =>
    (await read(headers, text)).fingerprint;
  const first = await of({ "Message-ID": "<m@x.example>", Received: "by one" });
  expect(await of({ "Message-ID": "<m@x.example>", Received: "by another" })).toBe(first);
  expect(await of({ "Message-ID": "<m@x.example>" }, "no")).not.toBe(first);
  expect(await of({ "Message-ID": "<n@x.example>" })).not.toBe(first);
});

it("holds to its bounds, whatever comes", async () => {
  const long = await read({}, `yes\n${"a".repeat(500_000)}`);
  expect(Math.max(...long.said.split("\n").map((l) => l.length))).toBeLessThanOrEqual(2000);
  expect(long.text.length).toBeLessThanOrEqual(200_000);
  const odd = await read(
    { Subject: "a\u0000b", From: `"${"n".repeat(900)}\u0000" <ada@x.example>` },
    "x\u0000y",
  );
  expect(JSON.stringify(odd)).not.toContain("\\u0000");
  expect(odd.from!.name.length).toBeLessThanOrEqual(200);
  const nested = Array.from(
    { length: 200 },
    (_, i) => `--b${i}\r\nContent-Type: multipart/mixed; boundary="b${i + 1}"\r\n\r\n`,
  );
  const deep = Buffer.from(
    `From: ada@x.example\r\nMIME-Version: 1.0\r\nContent-Type: multipart/mixed; boundary="b0"\r\n\r\n${nested.join("")}--b200\r\n\r\nyes\r\n`,
  );
  expect((await readMail(deep, POST, OWN)).from!.email).toBe("ada@x.example");
  expect((await readMail(Buffer.from("\u0000\u0001 no mail at all"), POST, OWN)).from).toBeNull();
});
