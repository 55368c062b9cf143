import type { Desk } from "@/contract/desk";
import { alertGroups } from "./alertGroups";

const alert = (id: number, watch: string, severity = "urgent") => ({ id, watch, severity }) as Desk["alerts"][number];

test("alerts of one watch stand together, the first two of them and how many more", () => {
  const all = [alert(1, "open"), alert(2, "copy"), alert(3, "open"), alert(4, "open"), alert(5, "open")];
  expect(alertGroups(all).map(({ alerts, more }) => [alerts.map(({ id }) => id), more])).toEqual([
    [[1, 3], 2],
    [[2], 0],
  ]);
});

test("a third by itself is listed, and another severity is another group", () => {
  const all = [alert(1, "open"), alert(2, "open"), alert(3, "open"), alert(4, "open", "low")];
  expect(alertGroups(all).map(({ alerts, more }) => [alerts.length, more])).toEqual([
    [3, 0],
    [1, 0],
  ]);
});
