import { NextResponse, type NextRequest } from "next/server";
import { fromOurPage, NOT_OURS } from "./web/origin";

const SAFE = new Set(["GET", "HEAD", "OPTIONS"]);

/**
 * Guards every page: changes only from our own pages, and a content policy with a nonce per page. The HTTP
 * API stands outside: it takes no cookie, so there is nothing another site could borrow.
 */
export function proxy(request: NextRequest): NextResponse {
  if (!SAFE.has(request.method) && !fromOurPage(request.headers.get("origin"), request.headers.get("host")))
    return new NextResponse(NOT_OURS, { status: 403 });
  const nonce = btoa(crypto.randomUUID());
  const dev = process.env.NODE_ENV !== "production";
  const policy = [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${dev ? " 'unsafe-eval'" : ""}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    "connect-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join("; ");
  const headers = new Headers(request.headers);
  headers.set("x-nonce", nonce);
  headers.set("content-security-policy", policy);
  headers.set("x-path", request.nextUrl.pathname);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set("content-security-policy", policy);
  response.headers.set("x-content-type-options", "nosniff");
  response.headers.set("referrer-policy", "same-origin");
  response.headers.set("permissions-policy", "camera=(), microphone=(), geolocation=()");
  response.headers.set("cross-origin-opener-policy", "same-origin");
  return response;
}

export const config = { matcher: ["/((?!api/|_next/static|_next/image|favicon.ico).*)"] };
