import { render, screen } from "@testing-library/react";
import { addressProblems } from "./address";
import { AddressNotice } from "./AddressNotice";

const problemsOf = (address: string) => {
  const { pathname, searchParams } = new URL(address, "http://x");
  return [...addressProblems(pathname, searchParams).values()];
};

test.each([
  ["/trail?from=abc", "from takes a time in whole seconds since 1970, not abc"],
  ["/trail?label=nope", "label takes one of public, internal, confidential, restricted, not nope"],
  ["/trail?side=left&person=a@x.example", "side takes one of either, actor, recipient, not left"],
  ["/trail?zone=Nowhere", "zone takes a time zone such as Europe/Lisbon, not Nowhere"],
  ["/trail/watches?to=soon", "to takes a time in whole seconds since 1970, not soon"],
  ["/register?at=yesterday", "at takes a time such as 2026-03-03T12:00:00Z, not yesterday"],
  ["/desk?at=2026-02-99T00:00:00Z", "at takes a time such as 2026-03-03T12:00:00Z, not 2026-02-99T00:00:00Z"],
  ["/register?group=colour", "group takes one of item, organisation, maker, folder, not colour"],
  ["/register?query=open", "there is no query on this screen"],
  ["/rules?rule=none-such", expect.stringContaining("rule takes one of open-expiry")],
  ["/alerts?alert=x", "alert takes a number, not x"],
  ["/ledger/dockets/1?state=odd", expect.stringContaining("state takes one of")],
])("%s is not understood", (address, problem) => expect(problemsOf(address)).toEqual([problem]));

test.each([
  "/register?q=reach%3Aopen&sort=-ends,item&group=item&open=a,b&share=s&at=2026-03-03T12:00:00Z",
  "/trail?q=tour&verb=opened&verb=revoked&from=-62135596800&to=253402300799&label=public&party=other&zone=UTC&like=yes",
  "/trail/watches?verb=opened&new=yes",
  "/ways?item=i&person=a@x.example&below=true",
  "/ledger/dockets/1/notices?to=recipients",
  "/desk",
])("%s is understood", (address) => expect(problemsOf(address)).toEqual([]));

test("what isn't understood is said, with a way on without it", () => {
  const parameters = new URLSearchParams("q=tour&from=abc");
  render(<AddressNotice path="/trail" parameters={parameters} problems={addressProblems("/trail", parameters)} />);
  expect(screen.getByRole("alert").textContent).toContain("From takes a time in whole seconds since 1970, not abc.");
  expect(screen.getByRole("link", { name: "Show the screen without it" }).getAttribute("href")).toBe("/trail?q=tour");
});
