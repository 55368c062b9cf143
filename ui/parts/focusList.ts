/** What can be walked on a screen: a list that has the focus itself, or the first of its lines that can. */
const LISTS = "#screen [data-table], #screen [role=listbox][tabindex], #screen :is(table, ul) :is(a, button, input)";

/** Puts the focus on the list of the screen; where it has none, on the screen. */
export function focusList() {
  (document.querySelector<HTMLElement>(LISTS) ?? document.getElementById("screen"))?.focus();
}

/** The same where whatever had the focus has gone. */
export function focusListIfLost() {
  if (document.activeElement === document.body) focusList();
}
