import { expect, test } from "@playwright/test";
import createClient from "openapi-fetch";
import type { paths } from "../api/schema";
import { day } from "../day";
import { be } from "./people";

/** Calls as a program should: told to come back (503, RFC 9110, section 15.6.4), it does, a few times. */
async function patient<T extends { response: Response }>(call: () => Promise<T>): Promise<T> {
  for (let tries = 1; ; tries++) {
    const r = await call();
    if (r.response.status !== 503 || tries === 5) return r;
    await new Promise((go) => setTimeout(go, 1000 * Number(r.response.headers.get("retry-after") ?? 1)));
  }
}

/** The whole round by a client made from the published document: what it sends and reads is typed by it. */
test("a client made from the API's own document does the whole round", async ({ page, baseURL }) => {
  const clientOf = async (person: string) => {
    await be(page, person, "/office/programs");
    await page.getByLabel("What it is for").fill("a made client");
    await page.getByRole("button", { name: "Make a key" }).click();
    const key = (await page.locator("code").textContent())!;
    return createClient<paths>({ baseUrl: `${baseURL}/api/v1`, headers: { authorization: `Bearer ${key}` } });
  };
  const piet = await clientOf("piet.hanlon");
  const tobias = await clientOf("tobias.marrin");

  const { data: open } = await piet.GET("/processes");
  expect(open!.processes.map((p) => p.key)).toContain("supplies");
  const sent = {
    data: {
      project: "Guild banners",
      urgent: false,
      reason: `Needed by ${day(20)}.`,
      items: [{ "#": "1", item: "11", quantity: "80" }],
    },
  };
  const send = () =>
    piet.POST("/processes/{process}/requests", {
      params: { path: { process: "supplies" }, header: { "Idempotency-Key": "made-client-1" } },
      body: sent,
    });
  const started = await patient(send);
  expect(started.error).toBeUndefined();
  const number = started.data!.number;
  const again = await patient(send);
  expect(again.data!.number).toBe(number);
  const read = await piet.GET("/requests/{number}", { params: { path: { number } } });
  expect(read.data).toMatchObject({ process: "supplies", status: "under way", requester: "piet.hanlon" });
  const refused = await piet.POST("/processes/{process}/requests", {
    params: { path: { process: "supplies" } },
    body: { data: { project: "" } },
  });
  expect(refused.error).toMatchObject({ status: 422, code: "form" });

  const sorcha = await clientOf("sorcha.lind");
  const { data: waiting } = await sorcha.GET("/tasks");
  const task = waiting!.tasks.find((t) => t.request === number)!;
  const at = { number, task: task.task };
  const { data: shown } = await sorcha.GET("/requests/{number}/tasks/{task}", { params: { path: at } });
  expect(shown!.answers.map((a) => a.id)).toContain("approve");
  await sorcha.POST("/requests/{number}/tasks/{task}/answer", {
    params: { path: at },
    body: { answer: "approve", note: "", data: {}, seen: shown!.seen },
  });
  const { data: after } = await piet.GET("/requests/{number}", { params: { path: { number } } });
  expect(after!.trail.map((l) => l.text)).toContain("answered: Approve");

  const process = { params: { path: { process: "supplies" } } };
  const { data: draft } = await tobias.GET("/processes/{process}/draft", process);
  const edited = await tobias.POST("/processes/{process}/draft/edits", {
    ...process,
    body: {
      version: draft!.version,
      edits: [
        { op: "process.set", patch: { purpose: "Said by a made client." } },
        { op: "step.set", id: draft!.definition.route.at(-1)!.id, patch: { name: "The end" } },
      ],
    },
  });
  const wrong = await tobias.POST("/processes/{process}/draft/edits", {
    ...process,
    body: {
      version: edited.data!.version,
      edits: [{ op: "step.set", id: draft!.definition.route.at(-1)!.id, patch: { result: 7 } }],
    },
  });
  expect(wrong.error).toMatchObject({ status: 422, code: "invalid" });
  const whole = await tobias.PUT("/processes/{process}/draft", {
    ...process,
    body: { version: edited.data!.version, definition: { ...draft!.definition, purpose: "Whole." } },
  });
  expect(whole.data!.version).toBe(edited.data!.version + 1);
  const { data: problems } = await tobias.GET("/processes/{process}/problems", process);
  expect(problems!.problems.filter((p) => p.severity === "error")).toEqual([]);
  const released = await tobias.POST("/processes/{process}/releases", {
    ...process,
    body: { version: "7.0.0", note: "By a made client." },
  });
  expect(released.data).toEqual({ version: "7.0.0" });

  const { data: registers } = await piet.GET("/registers");
  expect(registers!.registers.map((r) => r.key)).toContain("stores");
  const { data: records } = await piet.GET("/registers/{register}/records", {
    params: { path: { register: "objects" }, query: { limit: 2, where: "Insured value > 1000" } },
  });
  expect(records!.records).toHaveLength(2);
  const one = { params: { path: { register: "objects", record: String(records!.records[0]!.id) } } };
  expect((await piet.GET("/registers/{register}/records/{record}", one)).data!.record.id).toBe(
    records!.records[0]!.id,
  );
});
