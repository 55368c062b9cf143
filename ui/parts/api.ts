import { leaveTo } from "./leaveTo";

/** What the server said when it refused or failed, in its own words. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

/** Asks the server; the answer is JSON. @throws {ApiError} */
export async function api<T>(
  path: string,
  init: { method?: string; body?: unknown; signal?: AbortSignal } = {},
): Promise<T> {
  const response = await fetch(path, {
    method: init.method ?? "GET",
    signal: init.signal,
    ...(init.body === undefined
      ? {}
      : { body: JSON.stringify(init.body), headers: { "Content-Type": "application/json" } }),
  }).catch((error: Error) => {
    if (error.name === "AbortError") throw error;
    throw new ApiError(0, "The application can't be reached. Check that it is running, then try again.");
  });
  const answer = await response.json().catch(() => ({}));
  if (response.ok) return answer as T;
  if (response.status === 401 && !path.startsWith("/api/auth")) leaveTo("/sign-in");
  throw new ApiError(response.status, answer.error ?? answer.message ?? `The application answered ${response.status}.`);
}
