/** What each screen is for, and the words that it takes; the longer of two paths that fit comes first. */
export interface ScreenPart {
  path: `/${string}`;
  title: string;
  about: string;
  words: readonly string[];
}

export const SCREEN_PARTS: readonly ScreenPart[] = [
  {
    path: "/desk/shortlist",
    title: "Where to start",
    about: "Which changes shut the most of what is open, and disturb people the least.",
    words: ["Shortlist", "Docket", "Project"],
  },
  {
    path: "/desk",
    title: "Desk",
    about: "What needs attention today, how tightly outside shares are shut, and how that has changed.",
    words: ["Alert", "Docket", "Latch", "Risk"],
  },
  {
    path: "/register/intake",
    title: "Intake",
    about: "Links by which outsiders send files in, and every file that came, with what there is to say of it.",
    words: ["Intake link", "Docket", "Trail"],
  },
  {
    path: "/register/over",
    title: "Links that are over",
    about: "Links that no longer let anybody in: cleared at once, or automatically every month.",
    words: ["Link", "Docket", "Standing order"],
  },
  {
    path: "/register",
    title: "Register",
    about: "Every share there is. Search it, narrow it down, and add changes to the docket.",
    words: ["Share", "Link", "Grant", "Audience", "Latch", "Risk", "Finding", "Docket", "Tray"],
  },
  {
    path: "/ways",
    title: "Ways in",
    about: "Who reaches an item, what a person or an organisation reaches, and every way between them.",
    words: ["Ways in", "Item", "Share", "Organisation"],
  },
  {
    path: "/rules/waivers",
    title: "Waivers",
    about: "Findings that are accepted for now, with the reason and the date on which that ends.",
    words: ["Waiver", "Rule", "Finding"],
  },
  {
    path: "/rules",
    title: "Rules",
    about: "What every share must satisfy, how many don’t, and what happens about it.",
    words: ["Rule", "Finding", "Waiver", "Latch"],
  },
  {
    path: "/rounds",
    title: "Rounds",
    about: "Reviews in which owners say which of their shares are still needed.",
    words: ["Round", "Confirmation", "Docket"],
  },
  {
    path: "/people/project",
    title: "Projects",
    about: "Work with people outside, and what is shared for it until it ends.",
    words: ["Project", "Organisation", "Docket"],
  },
  {
    path: "/people/leaver",
    title: "Leavers",
    about: "People who have left or will leave, and what they leave behind.",
    words: ["Leaver", "Directory", "Docket"],
  },
  {
    path: "/people/insiders",
    title: "Insiders",
    about: "Our own people, and which source says what about each of them.",
    words: ["In-house", "Directory", "Leaver"],
  },
  {
    path: "/people/look-alikes",
    title: "Look-alikes",
    about: "Domains that are easily confused with a partner’s or with one of ours.",
    words: ["Look-alikes", "Organisation", "Party"],
  },
  {
    path: "/people",
    title: "Organisations",
    about: "Everybody outside who has access, by organisation.",
    words: ["Organisation", "Party", "Share"],
  },
  {
    path: "/trail/watches",
    title: "Watches",
    about: "Searches of the trail that raise alerts automatically.",
    words: ["Watch", "Alert", "Trail"],
  },
  {
    path: "/trail",
    title: "Trail",
    about: "What happened in the stores: who shared, opened, downloaded and changed what.",
    words: ["Trail", "Watch", "Alert"],
  },
  {
    path: "/alerts",
    title: "Alerts",
    about: "What the watches found, until somebody settles it.",
    words: ["Alert", "Watch"],
  },
  {
    path: "/ledger/packs",
    title: "Evidence packs",
    about: "Evidence for a period in one file, which an auditor can check alone.",
    words: ["Evidence pack", "Pseudonym", "Checkpoint"],
  },
  {
    path: "/ledger/witnesses",
    title: "Witnesses",
    about: "Places outside that hold checkpoints, so that the ledger can’t be rewritten unseen.",
    words: ["Witness", "Checkpoint", "Ledger"],
  },
  {
    path: "/ledger/reports",
    title: "Reports",
    about: "Summaries for people who weren’t involved, as pages, PDFs and tables.",
    words: ["Report", "Evidence pack"],
  },
  {
    path: "/ledger",
    title: "Ledger",
    about: "What was decided and done here, and the dockets that were applied, with their receipts.",
    words: ["Ledger", "Docket", "Receipt", "Probe", "Notice", "Witness"],
  },
  {
    path: "/share/requests",
    title: "Requests to share",
    about: "What people want to share: look at what it would do, approve it, or refuse it with a word.",
    words: ["Share", "Rule", "Waiver"],
  },
  {
    path: "/share",
    title: "Make a share",
    about: "One sentence that says who may do what until when; beside it what would stand in its way.",
    words: ["Share", "Rule", "Waiver", "Standing order"],
  },
  {
    path: "/estate/imports",
    title: "Imports",
    about: "Reports that stores export: how their columns are read, and which have been imported.",
    words: ["Import", "Store", "Estate"],
  },
  {
    path: "/estate/labels",
    title: "Labels",
    about: "How sensitive items are, where their store doesn’t say it: by place, by name or for a whole store.",
    words: ["Label", "Item", "Store"],
  },
  {
    path: "/estate",
    title: "Estate",
    about:
      "The stores and how their readings went; imports, labels, parties, people who sign in, messages and approval.",
    words: ["Estate", "Store", "Directory", "Standing order"],
  },
];

/** What is told of the screen at a path; undefined where it has no part of its own. */
export function partOf(path: string): ScreenPart | undefined {
  return SCREEN_PARTS.find((part) => path.startsWith(part.path));
}
