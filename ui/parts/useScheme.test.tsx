import { act, render, screen } from "@testing-library/react";
import { useScheme } from "./useScheme";

function Told() {
  return <p>{useScheme()}</p>;
}

test("what is drawn is told when the light goes out, and when it comes back", () => {
  const known = globalThis.matchMedia;
  const media = Object.assign(new EventTarget(), { matches: false });
  globalThis.matchMedia = () => media as unknown as MediaQueryList;
  const turn = (isDark: boolean) =>
    act(() => {
      media.matches = isDark;
      media.dispatchEvent(new Event("change"));
    });
  const { unmount } = render(<Told />);
  expect(screen.queryByText("light")).not.toBeNull();
  turn(true);
  expect(screen.queryByText("dark")).not.toBeNull();
  turn(false);
  expect(screen.queryByText("light")).not.toBeNull();
  unmount();
  globalThis.matchMedia = known;
});
