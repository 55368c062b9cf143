import { type NextRequest, NextResponse } from "next/server";

/** Gives every page a content security policy with a nonce of its own. What holds for data too stands in `next.config.ts`. */
export function proxy(request: NextRequest) {
  const nonce = Buffer.from(crypto.randomUUID()).toString("base64");
  const policy = [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'`,
    `style-src 'self' 'nonce-${nonce}'`,
    // Positions of virtual rows are set as style attributes; what they say can't fetch or run anything.
    "style-src-attr 'unsafe-inline'",
    "img-src 'self' data:",
    "font-src 'self'",
    "connect-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join("; ");
  const headers = new Headers(request.headers);
  headers.set("x-nonce", nonce);
  // A layout isn't told which address it is drawn for: whoever has to sign in first comes back to it.
  headers.set("x-screen", request.nextUrl.pathname + request.nextUrl.search);
  headers.set("content-security-policy", policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set("Content-Security-Policy", policy);
  response.headers.set("Cache-Control", "no-store");
  if (process.env.LATCH_URL?.startsWith("https:"))
    response.headers.set("Strict-Transport-Security", "max-age=63072000");
  return response;
}

export const config = { matcher: [{ source: "/((?!api/|_next/static|_next/image|favicon.ico).*)" }] };
