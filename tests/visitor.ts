import type { App } from "@/server/app";

/** Asks an application as a browser does: with its cookies, from one address, and from a page of ours. */
export class Visitor {
  private readonly cookies = new Map<string, string>();

  /** @param address from where; only what it says of itself where it stands behind a proxy */
  constructor(
    private readonly app: App,
    private readonly headers: Record<string, string> = {},
  ) {}

  async ask(method: string, path: string, body?: unknown, more: Record<string, string> = {}): Promise<Answered> {
    const { url } = this.app.settings;
    const response = await this.app.fetch(
      new Request(`${url}${path}`, {
        method,
        headers: {
          ...{ Origin: url, Cookie: [...this.cookies].map(([name, value]) => `${name}=${value}`).join("; ") },
          ...(body !== undefined && { "Content-Type": "application/json" }),
          ...this.headers,
          ...more,
        },
        ...(body !== undefined && { body: typeof body === "string" ? body : JSON.stringify(body) }),
      }),
    );
    for (const cookie of response.headers.getSetCookie()) this.keep(cookie);
    const text = await response.text();
    const isJson = response.headers.get("content-type")?.includes("json");
    return {
      status: response.status,
      headers: response.headers,
      body: isJson && text !== "" ? JSON.parse(text) : text,
    };
  }

  post(path: string, body: unknown = {}): Promise<Answered> {
    return this.ask("POST", path, body);
  }

  signIn(email: string, password: string): Promise<Answered> {
    return this.post("/api/auth/sign-in/email", { email, password });
  }

  /** Another who has the same cookies at this moment. */
  twin(): Visitor {
    const twin = new Visitor(this.app, this.headers);
    for (const [name, value] of this.cookies) twin.cookies.set(name, value);
    return twin;
  }

  private keep(cookie: string) {
    const [pair, ...attributes] = cookie.split(";").map((one) => one.trim());
    const [name, value] = [pair.slice(0, pair.indexOf("=")), pair.slice(pair.indexOf("=") + 1)];
    if (attributes.some((one) => /^max-age=0$/i.test(one))) this.cookies.delete(name);
    else this.cookies.set(name, value);
  }
}

export interface Answered {
  status: number;
  headers: Headers;
  // eslint-disable-next-line @typescript-eslint/no-explicit-any
  body: any;
}

/** How many of some answers had each status. */
export function statuses(answers: readonly Answered[]): Record<number, number> {
  const counts: Record<number, number> = {};
  for (const { status } of answers) counts[status] = (counts[status] ?? 0) + 1;
  return counts;
}
