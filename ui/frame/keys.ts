/** A key, and what it does. */
type KeyWords = readonly [key: string, does: string];

export const KEYS_EVERYWHERE: readonly KeyWords[] = [
  ["1 to 8", "Go to a section, in the order of the band"],
  ["?", "Show these keys"],
  ["Ctrl + Enter", "Apply what is in the tray: you are asked first"],
];

const KEYS: readonly (readonly [path: string, keys: readonly KeyWords[]])[] = [
  [
    "/register",
    [
      ["/", "Write a query"],
      ["↓ ↑", "Move the cursor"],
      ["Space", "Mark the row under the cursor"],
      ["Shift + ↓ ↑", "Mark rows on the way"],
      ["a", "Mark everything found"],
      ["Enter", "Open the share"],
      ["Esc", "Close the share"],
      ["x", "Add its revoke to the docket"],
      ["e", "Give it an end date"],
      ["p", "Give it a password, where it has none"],
      ["P", "Replace its password"],
      ["d", "Block its downloads"],
      ["n", "Make it for named people"],
      ["l", "Lower its role"],
      ["w", "Waive what it breaks"],
      ["u", "Remove it from the tray"],
      ["c", "Copy the marked rows"],
      ["t", "See the ways in to its item"],
    ],
  ],
  [
    "/alerts",
    [
      ["↓ ↑", "Move the cursor"],
      ["Enter", "Open the share"],
      ["x", "Add its revoke to the docket"],
      ["t", "See the ways in to its item"],
    ],
  ],
  ["/desk", [["↓ ↑", "Move from line to line"]]],
  ["/rules", [["↓ ↑", "Move from rule to rule"]]],
];

/** The keys of one screen; none where it has none of its own. */
export function keysOn(path: string): readonly KeyWords[] {
  return KEYS.find(([beginning]) => path.startsWith(beginning))?.[1] ?? [];
}
