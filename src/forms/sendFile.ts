import type { FileFacts } from "@/core/form";
import { OF_THE_OFFICE, sentTo, type FilesAt } from "./filesAt";

export interface Sending {
  done: Promise<{ ok: true; file: FileFacts } | { ok: false; sentence: string }>;
  cancel(): void;
}

const GONE =
  "The file did not get through: the server cannot be reached. What you typed is still here; try again in a moment.";

/** Sends a file to the server. XMLHttpRequest, because fetch does not tell how much of a body has gone. */
export function sendFile(
  file: File,
  onProgress: (share: number) => void,
  at: FilesAt = OF_THE_OFFICE,
): Sending {
  const call = new XMLHttpRequest();
  const done = new Promise<Awaited<Sending["done"]>>((resolve) => {
    const failed = (sentence: string) => resolve({ ok: false, sentence });
    call.upload.onprogress = (e) => e.lengthComputable && onProgress(e.loaded / e.total);
    call.onload = () => {
      try {
        const said = JSON.parse(call.responseText) as FileFacts & { sentence?: string };
        if (call.status === 201) resolve({ ok: true, file: said });
        else failed(said.sentence ?? GONE);
      } catch {
        failed(GONE);
      }
    };
    call.onerror = () => failed(GONE);
    call.onabort = () => failed("");
  });
  call.open("POST", sentTo(at, file.name));
  call.setRequestHeader("content-type", "application/octet-stream");
  call.send(file);
  return { done, cancel: () => call.abort() };
}
