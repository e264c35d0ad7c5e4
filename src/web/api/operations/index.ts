import type { Operation } from "../operation";
import { DRAFTS } from "./drafts";
import { FILES } from "./files";
import { REGISTERS } from "./registers";
import { REQUESTS } from "./requests";
import { TASKS } from "./tasks";

/** Every operation of the HTTP API. Routes, checks and the OpenAPI document all come from this list. */
export const OPERATIONS: readonly Operation[] = [...REQUESTS, ...TASKS, ...FILES, ...DRAFTS, ...REGISTERS];
