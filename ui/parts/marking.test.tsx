import { fireEvent, render, screen } from "@testing-library/react";
import { MarkAllBox, MarkBox } from "./MarkBox";
import { useBoxKeys, useMarking } from "./useMarking";

function List({ ids, shown = ids }: { ids: string[]; shown?: string[] }) {
  const marking = useMarking(ids);
  const onKeyDown = useBoxKeys(marking, "list");
  return (
    <div id="list" onKeyDown={onKeyDown}>
      <MarkAllBox marking={marking} />
      {shown.map((id) => (
        <MarkBox key={id} marking={marking} id={id} label={id} />
      ))}
      <output>{[...marking.marked].join(" ")}</output>
    </div>
  );
}

const marked = () => screen.getByRole("status").textContent;
const box = (id: string) => screen.getByRole<HTMLInputElement>("checkbox", { name: `Mark ${id}` });
const press = (key: string, shiftKey = false) => fireEvent.keyDown(document.activeElement!, { key, shiftKey });

test("arrows find the first box and go from one to the next; with Shift they mark on the way", () => {
  render(<List ids={["a", "b", "c"]} />);
  press("ArrowDown");
  expect(document.activeElement).toBe(box("a"));
  press("ArrowDown", true);
  press("ArrowDown");
  expect([marked(), document.activeElement]).toEqual(["a b", box("c")]);
  press("ArrowUp");
  expect(document.activeElement).toBe(box("b"));
});

test("with Shift held, a press marks all from the last one pressed, downwards or upwards", () => {
  render(<List ids={["a", "b", "c", "d", "e"]} />);
  fireEvent.click(box("b"), { shiftKey: true });
  expect(marked()).toBe("b");
  fireEvent.click(box("d"), { shiftKey: true });
  expect(marked()).toBe("b c d");
  fireEvent.click(box("a"), { shiftKey: true });
  expect(marked()).toBe("b c d a");
  fireEvent.click(box("c"));
  expect(marked()).toBe("b d a");
});

test("a marks all and, when all are marked, none; Esc none; the head's box is half set in between", () => {
  render(<List ids={["a", "b"]} />);
  fireEvent.click(box("b"));
  const all = screen.getByRole<HTMLInputElement>("checkbox", { name: "Mark all" });
  expect([marked(), all.checked, all.indeterminate]).toEqual(["b", false, true]);
  press("ArrowDown");
  press("a");
  expect([marked(), all.checked, all.indeterminate]).toEqual(["b a", true, false]);
  press("a");
  expect(marked()).toBe("");
  fireEvent.click(all);
  press("Escape");
  expect(marked()).toBe("");
});

test("what can't be marked is passed over, and marks of lines that are not shown stay", () => {
  const { rerender } = render(<List ids={["a", "c"]} shown={["a", "b", "c"]} />);
  expect(box("b").disabled).toBe(true);
  press("ArrowDown");
  press("ArrowDown");
  expect(document.activeElement).toBe(box("c"));
  press("a");
  rerender(<List ids={["d"]} />);
  fireEvent.click(box("d"));
  expect(marked()).toBe("a c d");
});
