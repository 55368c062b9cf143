import { act, fireEvent, render, screen } from "@testing-library/react";
import { peopleOperations } from "@/contract/people";
import { SignInAgain } from "../frame/SignInAgain";
import { ask } from "../parts/ask";
import { hydrateRoot } from "react-dom/client";
import { renderToString } from "react-dom/server";
import { FirstRunScreen } from "./FirstRunScreen";
import { SignInForm } from "./SignInForm";

const ways = { passwordsOff: false, singleSignOn: "Wrenmoor sign-on" };
let asked: { path: string; body?: unknown }[];
let answers: Record<string, { status?: number; body: object }[]>;

beforeEach(() => {
  [asked, answers] = [[], {}];
  globalThis.fetch = (async (path: string, { body }: RequestInit) => {
    asked.push({ path, ...(body ? { body: JSON.parse(body as string) } : {}) });
    const { status = 200, body: answer } = answers[path]?.shift() ?? { body: {} };
    return { ok: status < 300, status, json: async () => answer };
  }) as never;
});
const fill = (label: string, value: string) => fireEvent.change(screen.getByLabelText(label), { target: { value } });
const press = (name: string) => fireEvent.click(screen.getByRole("button", { name }));

test("after the password comes the code, or a recovery code, where somebody has them", async () => {
  const onDone = jest.fn();
  render(<SignInForm {...ways} onDone={onDone} />);
  answers["/api/auth/sign-in/email"] = [{ status: 401, body: {} }, { body: { twoFactorRedirect: true } }];
  fill("E-mail address", "ada@home.example");
  fill("Password", "four unlike words here");
  press("Sign in");
  expect((await screen.findByRole("alert")).textContent).toBe("The address or password is wrong.");
  press("Sign in");
  await screen.findByLabelText("Code");
  expect(onDone).not.toHaveBeenCalled();
  answers["/api/auth/two-factor/verify-backup-code"] = [{ status: 401, body: {} }];
  press("Use a recovery code");
  fill("Recovery code", "aaaa-bbbb");
  press("Sign in");
  expect((await screen.findByRole("alert")).textContent).toContain("or it has been used");
  press("Sign in");
  await act(async () => {});
  expect(onDone).toHaveBeenCalledTimes(1);
});

test("before the page's script runs a form can't be sent, and no password gets into the address", async () => {
  for (const form of [<SignInForm {...ways} onDone={() => {}} key="form" />, <FirstRunScreen key="first" />]) {
    const container = document.createElement("div");
    container.innerHTML = renderToString(form);
    const submit = container.querySelector<HTMLButtonElement>("button[type=submit]")!;
    expect([container.querySelector("form")!.method, submit.disabled]).toEqual(["post", true]);
    // What was typed before stays.
    const password = container.querySelector<HTMLInputElement>("input[name=password]")!;
    password.value = "four unlike words here";
    await act(async () => hydrateRoot(container, form));
    expect([password.value, submit.disabled]).toEqual(["four unlike words here", false]);
  }
});

test("where nobody signs in by password none is asked for", () => {
  render(<SignInForm passwordsOff singleSignOn="Wrenmoor sign-on" onDone={() => {}} />);
  expect(screen.queryByLabelText("Password")).toBeNull();
  expect(screen.getAllByRole("button").map((one) => one.textContent)).toEqual([
    "Use a passkey",
    "Use Wrenmoor sign-on",
  ]);
});

test("what needs a fresh sign-in is asked again after it, once; given up, nothing is done", async () => {
  render(<SignInAgain email="ada@home.example" ways={ways} />);
  const path = "/api/accounts/x/role";
  const given = { params: { id: "x" }, body: { role: "owner" as const } };
  const tooOld = { status: 403, body: { error: "Sign in again to do this.", kind: "sign-in-again" } };
  answers[path] = [tooOld];
  const first = ask(peopleOperations.setRole, given);
  expect(await screen.findByText(/Nothing has been done yet/)).toBeTruthy();
  fill("Password", "four unlike words here");
  press("Sign in again");
  await first;
  expect(asked.map(({ path }) => path)).toEqual([path, "/api/auth/sign-in/email", path]);
  answers[path] = [tooOld];
  const second = ask(peopleOperations.setRole, given).catch((error: Error) => error.message);
  await screen.findByText(/Nothing has been done yet/);
  press("Cancel");
  expect(await second).toBe("Sign in again to do this.");
});
