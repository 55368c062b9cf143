import { fireEvent, render, screen } from "@testing-library/react";
import { UseUnknown } from "./UseUnknown";

test("shares that a question about use can't judge are counted, and one press shows them", () => {
  const onQuery = jest.fn();
  render(<UseUnknown count={3} query="reach:open used:>45d -used:never" onQuery={onQuery} />);
  expect(screen.getByRole("status").textContent).toMatch(/^3 more shares may match: when they were last used/);
  fireEvent.click(screen.getByRole("button", { name: "Show them" }));
  expect(onQuery).toHaveBeenCalledWith("reach:open used:unknown");
});

test("nothing is said where there are none", () => {
  render(<UseUnknown count={0} query="used:>45d" onQuery={() => {}} />);
  expect(screen.queryByRole("status")).toBeNull();
});
