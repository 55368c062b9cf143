import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen } from "@testing-library/react";
import { HomePart } from "./HomePart";

const fetched = jest.fn();
beforeEach(() => {
  fetched.mockReset();
  global.fetch = fetched;
});
const answer = (body: object, status = 200) =>
  fetched.mockResolvedValueOnce({
    ok: status < 400,
    status,
    json: async () => body,
    text: async () => JSON.stringify(body),
  });
const show = () =>
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <HomePart />
    </QueryClientProvider>,
  );

test("domains are sent as a list, and what is wrong with them is said", async () => {
  answer({ domains: ["home.example"] });
  show();
  const field = await screen.findByLabelText("Domains, separated by commas");
  expect((field as HTMLInputElement).value).toBe("home.example");
  fireEvent.change(field, { target: { value: "home.example,  haus" } });
  answer({ error: "A home domain looks like wrenmoor.example." }, 400);
  fireEvent.click(screen.getByRole("button", { name: "Save" }));
  expect(await screen.findByText("A home domain looks like wrenmoor.example.")).toBeTruthy();
  const [, { method, body }] = fetched.mock.calls[1];
  expect([method, JSON.parse(body)]).toEqual(["PUT", { name: "", domains: ["home.example", "haus"] }]);
});
