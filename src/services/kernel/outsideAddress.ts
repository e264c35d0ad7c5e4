import { Failed } from "./failure";

const wrong = (message: string) => new Failed({ code: "invalid", data: { path: "Address", message } });
const LOOPBACK = /^(localhost|127\.0\.0\.1|\[::1\])$/;

/**
 * The address of a service outside, as it is kept: without a stroke at its end.
 * @param example of one that would do
 * @throws Failed where it is none, carries secrets, or would be spoken to without encryption on a way others share
 */
export function outsideAddress(text: string, example: string): string {
  const said = text.trim();
  const url = URL.canParse(said) ? new URL(said) : null;
  if (!url || (url.protocol !== "https:" && url.protocol !== "http:"))
    throw wrong(`“${said}” is no address; write for example ${example}.`);
  if (url.protocol === "http:" && !LOOPBACK.test(url.hostname))
    throw wrong("Without encryption (http) it can only be on this very machine.");
  if (url.username !== "" || url.password !== "")
    throw wrong("Leave user and password out of the address; what it is entered with has its own line.");
  return `${url.origin}${url.pathname.replace(/\/+$/, "")}`;
}
