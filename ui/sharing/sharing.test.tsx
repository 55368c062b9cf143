import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import type { OutlookTold } from "@/contract/sharing";
import type { ShareRequest } from "@/core/sharing/request";
import { STANDARD_TEMPLATES, wishFrom } from "@/core/sharing/templates";
import { T } from "@/tests/records";
import { StandpointContext } from "../frame/viewer";
import type { SharingDoor } from "./door";
import { RequestScreen } from "./RequestScreen";
import { SentenceForm } from "./SentenceForm";
import { SharingPart } from "./SharingPart";

const OUTLOOK: OutlookTold = {
  item: {
    id: "f",
    name: "Plot A",
    kind: "file",
    place: ["Stage plots"],
    label: "internal",
    labelFrom: "from the store",
  },
  ...{ changes: [], instead: [], cannot: [], makeAt: T, breaks: [], sentences: ["Odo can look at this file."] },
  ...{ files: 1, labels: { public: 0, internal: 1, confidential: 0, restricted: 0 }, folder: null, addresses: [] },
  ...{ after: { anyone: false, insiders: 2, outsiders: 1 }, needsApproval: true, digest: "a".repeat(64) },
};
const BREAKS = {
  rule: "open-password" as const,
  title: "An open link without a password",
  reason: "It is bare.",
  canWaive: true,
  own: true,
  items: [],
};
let outlook: OutlookTold;
let sent: unknown[];
const door = (kind: "make" | "ask"): SharingDoor => ({
  kind,
  begin: async () => ({ wish: wishFrom(STANDARD_TEMPLATES.internal, "f", T), itemName: "Plot A", folder: null }),
  look: async () => outlook,
  send: async (given) => {
    sent.push(given);
    return "r1";
  },
});

beforeEach(() => {
  outlook = OUTLOOK;
  sent = [];
});

function show(what: React.ReactNode, mayChange = true) {
  return render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <StandpointContext
        value={{ viewer: { name: "Ada", address: "ada@home.example", mayChange }, now: T, past: null }}
      >
        {what}
      </StandpointContext>
    </QueryClientProvider>,
  );
}

async function showForm(kind: "make" | "ask", onSent = jest.fn()) {
  const one = door(kind);
  show(<SentenceForm door={one} beginning={await one.begin("f")} now={T} onSent={onSent} />);
  return onSent;
}

const toOdo = () =>
  fireEvent.change(screen.getByLabelText("Their addresses, one per line"), { target: { value: "odo@quay.example" } });
const makeIt = () => screen.getByRole<HTMLButtonElement>("button", { name: "Make the share" });

test("nothing can be made for nobody; with an address the verdict stands beside the sentence, and what was shown is sent", async () => {
  const onSent = await showForm("make");
  expect(screen.getByText("Name at least one address.")).toBeTruthy();
  expect(makeIt().disabled).toBe(true);
  toOdo();
  expect(await screen.findByText("It breaks no rule.")).toBeTruthy();
  expect(screen.getByText("Odo can look at this file.")).toBeTruthy();
  expect(screen.getByText("Afterwards 1 outsider and 2 insiders by name can reach it.")).toBeTruthy();
  fireEvent.click(makeIt());
  await waitFor(() => expect(onSent.mock.calls[0][0]).toBe("r1"));
  expect(sent).toEqual([
    {
      wish: { ...wishFrom(STANDARD_TEMPLATES.internal, "f", T), to: ["odo@quay.example"] },
      ...{ digest: OUTLOOK.digest, why: "", waivers: [] },
    },
  ]);
});

test("while it breaks a rule it can’t be made, unless that is waived with a reason", async () => {
  outlook = { ...OUTLOOK, breaks: [BREAKS] };
  await showForm("make");
  toOdo();
  expect(await screen.findByText("It would break 1 rule")).toBeTruthy();
  expect(makeIt().disabled).toBe(true);
  fireEvent.click(screen.getByRole("button", { name: /^Waive it for this share/ }));
  expect(makeIt().disabled).toBe(true);
  fireEvent.change(screen.getByLabelText("Reason"), { target: { value: "It is for the press." } });
  await waitFor(() => expect(makeIt().disabled).toBe(false));
  fireEvent.click(makeIt());
  await waitFor(() =>
    expect(sent).toMatchObject([{ waivers: [{ rule: "open-password", reason: "It is for the press." }] }]),
  );
});

test("leave that is withdrawn before it is sent is not given", async () => {
  outlook = { ...OUTLOOK, breaks: [BREAKS] };
  await showForm("make");
  toOdo();
  fireEvent.click(await screen.findByRole("button", { name: /^Waive it for this share/ }));
  fireEvent.change(screen.getByLabelText("Reason"), { target: { value: "It is for the press." } });
  await waitFor(() => expect(makeIt().disabled).toBe(false));
  fireEvent.click(screen.getByRole("button", { name: "Don’t waive it" }));
  await waitFor(() => expect(makeIt().disabled).toBe(true));
});

test("what can’t be made says why and what to do; what speaks against an address is told", async () => {
  outlook = {
    ...OUTLOOK,
    cannot: [
      { why: "Stacks can’t block downloads on a file where people may edit.", instead: "Let them look at it only." },
    ],
    addresses: [
      {
        address: "odo@quai.example",
        name: null,
        insider: false,
        isNew: true,
        cautions: ["It looks just like quay.example."],
      },
    ],
  };
  await showForm("make");
  toOdo();
  expect((await screen.findByText(/can’t block downloads/)).textContent).toContain("Let them look at it only.");
  expect(screen.getByText("odo@quai.example").parentElement!.textContent).toContain("It looks just like quay.example.");
  expect(makeIt().disabled).toBe(true);
});

test("whoever asks says what for, and can ask even for what breaks a rule", async () => {
  outlook = { ...OUTLOOK, breaks: [BREAKS] };
  const onSent = await showForm("ask");
  toOdo();
  expect(await screen.findByText(/an administrator would have to waive it/)).toBeTruthy();
  expect(screen.queryByRole("button", { name: /^Waive it/ })).toBeNull();
  const askFor = screen.getByRole<HTMLButtonElement>("button", { name: "Ask for it" });
  expect(askFor.disabled).toBe(true);
  fireEvent.change(screen.getByLabelText("What it is for"), { target: { value: "The rigging." } });
  await waitFor(() => expect(askFor.disabled).toBe(false));
  fireEvent.click(askFor);
  await waitFor(() => expect(onSent).toHaveBeenCalled());
});

describe("a request", () => {
  const request = (more: Partial<ShareRequest> = {}): ShareRequest => ({
    ...{
      id: "r1",
      wish: { ...wishFrom(STANDARD_TEMPLATES.internal, "f", T), to: ["odo@quay.example"] },
      itemName: "Plot A",
    },
    ...{ why: "The rigging.", askedBy: "ida@home.example", askedAt: T, state: "asked", waivers: [], word: null },
    ...{ decidedBy: null, decidedAt: null, dueAt: null, docketId: null, shares: [], ...more },
  });
  let told: ShareRequest;
  let asked: [string, string, unknown][];

  beforeEach(() => {
    asked = [];
    globalThis.fetch = (async (path: string, { method = "GET", body }: RequestInit = {}) => {
      if (method !== "GET") asked.push([method, path, JSON.parse(body as string)]);
      const answer = path.includes("/look") ? outlook : method === "GET" ? told : {};
      return { ok: true, status: 200, json: async () => answer };
    }) as never;
  });

  test("is approved as it was shown, or refused with a word", async () => {
    told = request();
    show(<RequestScreen id="r1" />);
    expect(await screen.findByText("What it is for: The rigging.")).toBeTruthy();
    await screen.findByText("It breaks no rule.");
    fireEvent.click(screen.getByRole("button", { name: "Approve and make it" }));
    await waitFor(() =>
      expect(asked).toEqual([["POST", "/api/sharing/requests/r1/approval", { digest: OUTLOOK.digest, waivers: [] }]]),
    );
    const refuse = screen.getByRole<HTMLButtonElement>("button", { name: "Refuse it" });
    expect(refuse.disabled).toBe(true);
    fireEvent.change(screen.getByLabelText("Or refuse it, and say why"), { target: { value: "Too long." } });
    fireEvent.click(refuse);
    await waitFor(() => expect(asked[1]).toEqual(["POST", "/api/sharing/requests/r1/refusal", { word: "Too long." }]));
  });

  test("is shown to an auditor with what became of it, and nothing to press", async () => {
    told = request({ state: "made", docketId: "d", shares: ["s"], decidedBy: "ada@home.example", decidedAt: T });
    told.wish = { ...told.wish, to: "anyone" };
    show(<RequestScreen id="r1" />, false);
    expect((await screen.findByRole("link", { name: /^Its docket/ })).getAttribute("href")).toBe("/ledger/dockets/d");
    expect(screen.queryByRole("button")).toBeNull();
    expect(screen.queryByText(/QR code/)).toBeNull();
  });

  test("of a link for anyone offers a code to print, to administrators", async () => {
    told = request({ state: "made", docketId: "d", shares: ["s"], decidedBy: "ada@home.example", decidedAt: T });
    told.wish = { ...told.wish, to: "anyone" };
    show(<RequestScreen id="r1" />);
    expect((await screen.findByRole("link", { name: "SVG" })).getAttribute("href")).toBe(
      "/api/sharing/requests/r1/code?format=svg",
    );
  });

  test("that failed says why", async () => {
    told = request({ state: "failed", word: "Stacks wants an end date.", docketId: "d", dueAt: null });
    show(<RequestScreen id="r1" />);
    expect((await screen.findByRole("alert")).textContent).toBe("Stacks wants an end date.");
  });
});

test("templates and free requests are saved as they stand", async () => {
  const asked: [string, string, unknown][] = [];
  globalThis.fetch = (async (path: string, { method = "GET", body }: RequestInit = {}) => {
    if (method !== "GET") asked.push([method, path, JSON.parse(body as string)]);
    return { ok: true, status: 200, json: async () => ({ templates: STANDARD_TEMPLATES, free: null, words: "" }) };
  }) as never;
  show(<SharingPart />);
  fireEvent.change(await screen.findByLabelText("Days, restricted"), { target: { value: "7" } });
  fireEvent.click(screen.getByRole("button", { name: "Save the templates" }));
  const templates = { ...STANDARD_TEMPLATES, restricted: { ...STANDARD_TEMPLATES.restricted, days: 7 } };
  await waitFor(() => expect(asked).toEqual([["PUT", "/api/sharing/templates", templates]]));
  fireEvent.change(screen.getByLabelText(/^People get one mail/), {
    target: { value: "Call the box office." },
  });
  fireEvent.click(screen.getByRole("button", { name: "Save the text" }));
  await waitFor(() => expect(asked.at(-1)).toEqual(["PUT", "/api/sharing/words", { words: "Call the box office." }]));
  fireEvent.click(screen.getByLabelText("Approve some of them automatically"));
  fireEvent.click(screen.getByRole("button", { name: "Save" }));
  const free = { labels: ["public"], maxDays: 30, named: true };
  await waitFor(() => expect(asked.at(-1)).toEqual(["PUT", "/api/sharing/free", { free }]));
});
