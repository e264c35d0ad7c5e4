import { z } from "zod";
import { addFile, openFile } from "@/services";
import { defineDownload, defineUpload, map, type Operation } from "../operation";

export const FILES: readonly Operation[] = [
  defineUpload({
    id: "addFile",
    method: "POST",
    path: "/files",
    summary: "Adds a file; its id is then the value of a file field in a form the caller sends",
    status: 201,
    query: z.object({ name: z.string().min(1).max(400).describe("With its ending, for example quote.pdf") }),
    response: z.object({
      id: z.string(),
      name: z.string(),
      size: z.int().describe("Bytes"),
      type: z.string().describe("Media type, by the ending of the name"),
    }),
    example: {
      response: { id: "Zk3v0c2oT8mJ4c1qQ9y7x5wB", name: "quote.pdf", size: 48211, type: "application/pdf" },
    },
    run: async (actor, { query, file }) =>
      map(await addFile(actor, query.name, file), ({ id, name, size, type }) => ({
        id,
        name,
        size,
        type,
      })),
  }),
  defineDownload({
    id: "readFile",
    method: "GET",
    path: "/files/{file}",
    summary: "A file, for whoever may see the field it stands in",
    status: 200,
    run: async (actor, { path }) => openFile(actor, path("file")),
  }),
];
