/** Something that people come to do: where it is done, and how, step by step. */
export interface Task {
  title: string;
  /** The screens that it takes, the first one first. */
  screens: readonly `/${string}`[];
  steps: readonly string[];
}

export const TASKS: readonly Task[] = [
  {
    title: "Find out what to do first",
    screens: ["/desk", "/desk/shortlist"],
    steps: [
      "Open the Desk. On your first visit it says what was found and what to do first; later it lists what needs attention.",
      "Open Where to start for the changes that shut the most for the least disturbance. Move the handle to choose how many.",
      "Add them to the docket, check the preview, then apply it.",
    ],
  },
  {
    title: "End everything that a partner firm can reach",
    screens: ["/people", "/people/organisation"],
    steps: [
      "Open the organisation under People. Its page lists its people, its shares and what they reach.",
      "Under Cut off, mark the open links that its people can still use.",
      "Press Add the cut-off to the docket, check the preview at the bottom of the window, then apply it.",
    ],
  },
  {
    title: "Settle what a leaver leaves behind",
    screens: ["/people/leavers", "/people/leaver", "/people/insiders"],
    steps: [
      "Open the person under Leavers. If they aren’t listed yet, find them under Insiders and set their last day.",
      "Choose who gets what they own, and decide each of their links: end it, tighten it or keep it.",
      "Add all of it to the docket. Apply it after their last day.",
    ],
  },
  {
    title: "Shut confidential files that are open to anyone",
    screens: ["/register"],
    steps: [
      "Search the register for reach:open label:confidential and press a to mark all results.",
      "Press e for an end date. Shares that end sooner stay as they are.",
      "Press p for a password where there is none, then apply the docket.",
      "On the docket’s page, hand over the passphrases by owner. Each one is shown once.",
    ],
  },
  {
    title: "Revoke links that nobody uses",
    screens: ["/register", "/ledger/dockets/"],
    steps: [
      "Search the register for reach:open -used:<90d, press a to mark all results, then x to add their revokes to the docket.",
      "Open the preview and remove those that running projects need. Apply the docket.",
      "The receipts say for each link what the store answered and what the probe found. Undo any of them there.",
      "Press Tell owners and recipients to send one mail to each person concerned.",
    ],
  },
  {
    title: "See who reaches a file, and close it for one person",
    screens: ["/ways"],
    steps: [
      "Open Ways in and choose the item. Everybody who reaches it is listed, with how.",
      "Choose the person as well to see every way in between the two.",
      "Least disruptive cut names the changes that close them all and take the least from others. Add them to the docket.",
    ],
  },
  {
    title: "Watch what somebody shares outside",
    screens: ["/trail", "/trail/watches", "/alerts"],
    steps: [
      "Search the trail for the person and the time, and narrow it down to what you are looking for.",
      "Press Make this a watch. Say how many events in which time it takes, and try it on the last 90 days.",
      "Save it and switch it on. Its alerts appear on the Desk and under Alerts.",
    ],
  },
  {
    title: "Have owners answer for findings of a rule",
    screens: ["/rules"],
    steps: [
      "Choose the rule, set its mode to Ask and preview what that would do: the mails are shown before any is sent.",
      "Save it. Each owner gets one mail and answers without signing in: keep with a reason, tighten or end.",
      "After the grace period, the rest is a docket that is ready for you to review.",
    ],
  },
  {
    title: "Answer an audit",
    screens: ["/register", "/ledger", "/ledger/packs", "/ledger/reports"],
    steps: [
      "Choose the day with the time control at the top: every screen shows the estate as it was then. Export the register.",
      "Open the ledger to search what was decided and done, and to verify it.",
      "Make an evidence pack for the period, or open a report. Both can be checked without Tight Latch.",
    ],
  },
  {
    title: "Learn about a store that can’t be read directly",
    screens: ["/estate/imports", "/estate"],
    steps: [
      "Export who has access to what from the store, as CSV or as a workbook. Under Estate, Imports, choose the file.",
      "Check what each column is taken to say, and what its words mean. The rows below say what they come to.",
      "Check all rows: you see what is new, what has changed and what has ended. Then import it. The next report takes one press.",
    ],
  },
  {
    title: "Say how sensitive files are",
    screens: ["/estate/labels", "/estate"],
    steps: [
      "Under Estate, Labels, choose a label and what it is for: a folder, names like a pattern, or a whole store.",
      "Preview it: the items that get another label are listed. Then save it.",
      "Ways in says of each item where its label comes from.",
    ],
  },
  {
    title: "Look after your own shares",
    screens: ["/my-shares"],
    steps: [
      "Open My shares, or the address in the mail of a round.",
      "Keep each share until a date, tighten it, end it, or pass it on to the colleague who knows.",
      "Finish: you see what will happen before it does.",
    ],
  },
  {
    title: "Check the links through which strangers send files",
    screens: ["/register", "/rules", "/trail"],
    steps: [
      "Search the register for reach:intake. The rules about intake links say which have no password, no near end or a mixed folder.",
      "Press e or p to give them an end date or a password.",
      "The history of each link, and the trail, list what was sent in and when.",
    ],
  },
  {
    title: "Clear links that are over",
    screens: ["/register"],
    steps: [
      "Open Tighten above the list and choose Clear all links that are broken, expired or used up.",
      "Check the preview and apply the docket: nobody loses access by it.",
    ],
  },
  {
    title: "Share something as it should be shared",
    screens: ["/share"],
    steps: [
      "Open Make a share from the finder, from an item on Ways in, or from a share in the register.",
      "Fill in the sentence. Beside it stands every rule that it would break; change it, or waive the rule with a reason.",
      "Make it. Those it is for get a mail with the link; hand the passphrase over by another way, from its docket.",
    ],
  },
  {
    title: "Publish what is open to anyone, with reasons",
    screens: ["/register/public"],
    steps: [
      "Open Public list from the register. Each link is listed with how it is shared, why, until when and who is responsible.",
      "Add a reason where there is none. Export the list as CSV.",
    ],
  },
  {
    title: "Settle many alerts of one kind",
    screens: ["/alerts"],
    steps: [
      "Open Alerts. Mark them with Space, with Shift and the arrows, or all with a.",
      "Settle them together with a note, assign them, or add the revokes of their shares to the docket.",
    ],
  },
];
