/** A key, and what it does. */
type KeyWords = readonly [key: string, does: string];

export const KEYS_EVERYWHERE: readonly KeyWords[] = [
  ["1 to 9", "Go to a section, in the order shown at the top"],
  ["Ctrl + K", "Find a screen, a command, a saved query or a name"],
  ["?", "Show these keys"],
  ["Ctrl + Enter", "Apply the tray, after confirming"],
];

/** In every list whose lines have a box. */
const MARKING: readonly KeyWords[] = [
  ["↓ ↑", "Move from box to box"],
  ["Space", "Mark the line"],
  ["Shift + ↓ ↑", "Mark lines as you move"],
  ["Shift + press", "Mark a range of lines"],
  ["a", "Mark all, or none"],
  ["Esc", "Clear all marks"],
];

/** A list that is asked by a query, and moved through row by row. */
const LISTS: readonly KeyWords[] = [
  ["/", "Write a query"],
  ["↓ ↑", "Move from row to row, once one has focus"],
  ["Enter", "Open the row"],
];

const KEYS: readonly (readonly [path: string, keys: readonly KeyWords[]])[] = [
  [
    "/register",
    [
      ["/", "Write a query"],
      ["↓ ↑", "Move the cursor"],
      ["Space", "Mark the row under the cursor"],
      ["Shift + ↓ ↑", "Mark rows as you move"],
      ["a", "Mark all results"],
      ["Enter", "Open the share"],
      ["Esc", "Close the share"],
      ["x", "Add its revoke to the docket"],
      ["e", "Give it an end date"],
      ["p", "Give it a password if it has none"],
      ["P", "Replace its password"],
      ["d", "Block its downloads"],
      ["n", "Limit it to named people"],
      ["l", "Lower its role"],
      ["w", "Waive its findings"],
      ["u", "Remove it from the tray"],
      ["c", "Copy the marked rows"],
      ["t", "Show the ways in to its item"],
    ],
  ],
  ["/people/insiders", LISTS],
  ["/people/leavers", LISTS.slice(1)],
  ["/people/projects", LISTS.slice(1)],
  ["/people", LISTS],
  [
    "/alerts",
    [
      ["↓ ↑", "Move the cursor"],
      ["Space", "Mark the alert under the cursor"],
      ["Shift + ↓ ↑", "Mark alerts as you move"],
      ["Shift + press", "Mark a range of alerts"],
      ["a", "Mark all, or none"],
      ["Esc", "Clear all marks"],
      ["Enter", "Open the share"],
      ["x", "Add its revoke to the docket"],
      ["t", "Show the ways in to its item"],
    ],
  ],
  ["/rules/waivers", MARKING],
  ["/trail/watches", MARKING],
  ["/ledger/dockets/", MARKING],
  [
    "/desk/shortlist",
    [
      ["← →", "On the curve: fewer or more changes"],
      ["Home End", "On the curve: none, or all"],
    ],
  ],
  ["/desk", [["↓ ↑", "Move from line to line"]]],
  ["/rules", [["↓ ↑", "Move from rule to rule"]]],
];

/** The keys of one screen; none where it has none of its own. */
export function keysOn(path: string): readonly KeyWords[] {
  return KEYS.find(([beginning]) => path.startsWith(beginning))?.[1] ?? [];
}

const NAMES: Record<string, string> = {
  "/register": "Register",
  "/alerts": "Alerts",
  "/rules/waivers": "Waivers, watches and receipts",
  "/desk": "Desk",
  "/desk/shortlist": "Where to start",
  "/rules": "Rules",
};

/** The same for all screens, by their names; lists that are marked in alike stand together. */
export const KEYS_BY_SCREEN = KEYS.flatMap(([path, keys]) => (NAMES[path] ? [[NAMES[path], keys] as const] : []));
