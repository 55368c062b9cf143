import { TextEncoder } from "node:util";
import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import type { Self } from "@/contract/people";
import { AccountScreen } from "./AccountScreen";

// Browsers have it; jsdom does not.
Object.assign(globalThis, { TextEncoder });

const ways = { passwordsOff: false, singleSignOn: null };
const session = (id: string, isThis: boolean) => ({
  ...{ id, isThis, by: "code" as const, address: "203.0.113.7", browser: "A browser" },
  ...{ startedAt: "2026-10-05T06:00:00Z", usedAt: "2026-10-05T07:30:00Z" },
});
let self: Self;
let asked: { path: string; method: string; body?: unknown }[];
let answers: Record<string, { status?: number; body: object }>;

beforeEach(() => {
  self = {
    ...{
      name: "Ada",
      email: "ada@home.example",
      role: "auditor",
      dates: { zone: "Europe/Lisbon", style: "day-first", weekStart: 1 },
    },
    ...{ hasPassword: true, hasCodes: false, needsFactor: false, passkeys: [] },
    sessions: [session("here", true), session("there", false)],
  };
  [asked, answers] = [[], {}];
  globalThis.fetch = (async (path: string, { method, body }: RequestInit) => {
    asked.push({ path, method: method!, ...(body ? { body: JSON.parse(body as string) } : {}) });
    const { status = 200, body: answer } = answers[path] ?? { body: method === "GET" ? self : {} };
    return { ok: status < 300, status, json: async () => answer };
  }) as never;
});

async function show(lacksFactor = false) {
  render(<AccountScreen ways={ways} lacksFactor={lacksFactor} seesConsole />);
  await screen.findByText("Where you are signed in");
}
const sent = () => asked.filter(({ method }) => method !== "GET");

test("a name is saved, and times are by one's own clocks", async () => {
  await show();
  // Lisbon is an hour ahead of UTC in October.
  expect(screen.getAllByText(/since 5 Oct 2026, 07:00/)).toHaveLength(2);
  fireEvent.change(screen.getByLabelText("Name"), { target: { value: "Ada Umberlow" } });
  fireEvent.click(screen.getAllByRole("button", { name: "Save" })[0]);
  expect(await screen.findByText("Saved.")).toBeTruthy();
  expect(sent()).toEqual([{ path: "/api/self", method: "PUT", body: { name: "Ada Umberlow" } }]);
});

test("a time zone is found by a city in it, and a style and the first day of a week are chosen", async () => {
  await show();
  const zone = screen.getByRole("combobox", { name: "Time zone" });
  fireEvent.change(zone, { target: { value: "sao paulo" } });
  expect(screen.getAllByRole("option", { name: /America\/Sao_Paulo/ })[0].textContent).toContain("UTC-3 now");
  fireEvent.keyDown(zone, { key: "Enter" });
  fireEvent.change(screen.getByLabelText("Date format"), { target: { value: "year-first" } });
  fireEvent.change(screen.getByLabelText("First day of the week"), { target: { value: "6" } });
  fireEvent.click(screen.getAllByRole("button", { name: "Save" })[1]);
  await waitFor(() => expect(sent()).toHaveLength(1));
  expect(sent()[0]).toEqual({
    path: "/api/self/dates",
    method: "PUT",
    body: { zone: "America/Sao_Paulo", style: "year-first", weekStart: 6 },
  });
  fireEvent.change(zone, { target: { value: "Nowhere at all" } });
  expect(screen.getByText("No time zone has that name. Try the nearest large city.")).toBeTruthy();
});

test("one is signed out elsewhere, one place or all", async () => {
  await show();
  fireEvent.click(screen.getByRole("button", { name: "Sign out there" }));
  fireEvent.click(screen.getByRole("button", { name: "Sign out everywhere else" }));
  await waitFor(() => expect(sent()).toHaveLength(2));
  expect(sent().map(({ body }) => body)).toEqual([{ id: "there" }, { id: null }]);
});

test("codes are shown as a picture and a secret, confirmed by one, and leave recovery codes that are shown once", async () => {
  await show();
  answers["/api/auth/two-factor/enable"] = {
    body: {
      totpURI: "otpauth://totp/Tight%20Latch:ada?secret=JBSWY3DP&issuer=Tight%20Latch",
      backupCodes: ["aaaa-bbbb"],
    },
  };
  fireEvent.change(screen.getByLabelText("Your password"), { target: { value: "four unlike words here" } });
  fireEvent.click(screen.getByRole("button", { name: "Set up codes" }));
  expect(await screen.findByText("JBSWY3DP")).toBeTruthy();
  expect((await screen.findByAltText("QR code for your authenticator app")).getAttribute("src")).toMatch(
    /^data:image\/svg/,
  );
  answers["/api/auth/two-factor/verify-totp"] = { status: 401, body: { message: "Invalid code" } };
  fireEvent.change(screen.getByLabelText("Code it shows now"), { target: { value: "123 456" } });
  fireEvent.click(screen.getByRole("button", { name: "Confirm" }));
  expect((await screen.findByRole("alert")).textContent).toBe("Invalid code");
  delete answers["/api/auth/two-factor/verify-totp"];
  self = { ...self, hasCodes: true };
  fireEvent.click(screen.getByRole("button", { name: "Confirm" }));
  expect(await screen.findByText("aaaa-bbbb")).toBeTruthy();
  expect(sent().at(-1)).toEqual({ path: "/api/auth/two-factor/verify-totp", method: "POST", body: { code: "123456" } });
  expect(screen.getByText("You are asked for a code after your password.")).toBeTruthy();
});

test("a password is changed, and why it isn't is said", async () => {
  await show();
  answers["/api/auth/change-password"] = { status: 400, body: { message: "A password has at least 15 characters." } };
  fireEvent.change(screen.getByLabelText("Current password"), { target: { value: "four unlike words here" } });
  fireEvent.change(screen.getByLabelText("New password"), { target: { value: "short" } });
  fireEvent.click(screen.getByRole("button", { name: "Change password" }));
  expect((await screen.findByRole("alert")).textContent).toBe("A password has at least 15 characters.");
  expect(sent()[0].body).toEqual({
    ...{ currentPassword: "four unlike words here", newPassword: "short", revokeOtherSessions: true },
  });
});

test("whoever needs a second factor is told so, and led on", async () => {
  await show(true);
  expect(screen.getByRole("alert").textContent).toContain(
    "Your role needs a second factor. Add a passkey or codes from an authenticator app to get to everything else.",
  );
  expect(screen.queryByText("Back to the Desk")).toBeNull();
});

test("where nobody signs in by password none is asked for", async () => {
  render(<AccountScreen ways={{ passwordsOff: true, singleSignOn: "sign-on" }} lacksFactor={false} seesConsole />);
  await screen.findByText("Passkeys");
  expect(screen.queryByText("Password")).toBeNull();
  expect(screen.queryByText("Authenticator codes")).toBeNull();
});
