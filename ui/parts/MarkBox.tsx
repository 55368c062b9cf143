import type { Marking } from "./useMarking";

/** The box that marks one line of a list. */
export function MarkBox<Id extends string | number>(props: { marking: Marking<Id>; id: Id; label: string }) {
  const { marking, id, label } = props;
  return (
    <input
      type="checkbox"
      aria-label={`Mark ${label}`}
      data-mark={id}
      disabled={!marking.ids.includes(id)}
      checked={marking.marked.has(id)}
      // It changes by a press, which tells whether Shift is held; by Space it isn't.
      onChange={({ nativeEvent }) => marking.toggle(id, nativeEvent instanceof MouseEvent && nativeEvent.shiftKey)}
      className="size-[15px] accent-verdigris"
    />
  );
}

/** The box in a list's head, which marks all of it or none. */
export function MarkAllBox<Id extends string | number>({ marking }: { marking: Marking<Id> }) {
  const { ids, marked } = marking;
  const count = ids.filter((id) => marked.has(id)).length;
  return (
    <input
      type="checkbox"
      aria-label="Mark all"
      title="a"
      disabled={ids.length === 0}
      checked={count > 0 && count === ids.length}
      ref={(box) => {
        if (box) box.indeterminate = count > 0 && count < ids.length;
      }}
      onChange={marking.toggleAll}
      className="size-[15px] accent-verdigris"
    />
  );
}
