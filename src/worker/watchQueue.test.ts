import { EventEmitter } from "node:events";
import type { WorkerEvents } from "graphile-worker";
import { watchQueue } from "./watchQueue";

function watched(hands = 2) {
  const events = new EventEmitter();
  const lost: string[] = [];
  let now = 1_000_000;
  const look = watchQueue(
    events as WorkerEvents,
    hands,
    () => now,
    (why) => lost.push(why),
  );
  const after = (ms: number) => {
    now += ms;
    look();
    return lost.length;
  };
  return { events, lost, after };
}
const start = (events: EventEmitter, id: string) => events.emit("job:start", { job: { id } });
const complete = (events: EventEmitter, id: string) => events.emit("job:complete", { job: { id } });

it("a queue that shuts itself down is lost, with the reason", () => {
  const { events, lost } = watched();
  events.emit("pool:fatalError", { action: "completeJob", error: new Error("not now") });
  events.emit("pool:gracefulShutdown", { message: "inconsistent" });
  expect(lost).toEqual(["the queue failed at completeJob: Error: not now", "the queue ended: inconsistent"]);
});

it("one that does not look for jobs is lost after a minute, and not before", () => {
  const { events, lost, after } = watched();
  expect(after(59_000)).toBe(0);
  events.emit("localQueue:getJobs:complete", {});
  expect(after(60_000)).toBe(0);
  expect(after(1000)).toBe(1);
  expect(lost).toEqual(["the queue has not looked for jobs for 61 s"]);
});

it("with all hands full it need not look; with one free it must", () => {
  const { events, after } = watched();
  start(events, "1");
  start(events, "2");
  expect(after(3_600_000)).toBe(0);
  complete(events, "2");
  expect(after(60_000)).toBe(0);
  expect(after(1000)).toBe(1);
});
