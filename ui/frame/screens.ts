import { ESTATE_PARTS } from "../estate/parts";

/** The sections, in the order of the band and of the number keys. */
export const SECTIONS: readonly (readonly [name: string, path: `/${string}`])[] = [
  ["Desk", "/desk"],
  ["Register", "/register"],
  ["Ways in", "/ways"],
  ["Rules", "/rules"],
  ["Rounds", "/rounds"],
  ["People", "/people"],
  ["Trail", "/trail"],
  ["Ledger", "/ledger"],
  ["Estate", "/estate"],
];

/** The screens that stand under a section, or beside them all. */
export const OTHER_SCREENS: typeof SECTIONS = [
  ["Where to start", "/desk/shortlist"],
  ["Alerts", "/alerts"],
  ["Watches", "/trail/watches"],
  ["Waivers", "/rules/waivers"],
  ["New round", "/rounds/new"],
  ["Look-alikes", "/people/look-alikes"],
  ["Projects", "/people/projects"],
  ["New project", "/people/project/new"],
  ["Leavers", "/people/leavers"],
  ["Insiders", "/people/insiders"],
  ["Witnesses", "/ledger/witnesses"],
  ["Evidence packs", "/ledger/packs"],
  ["Reports", "/ledger/reports"],
  ...ESTATE_PARTS.slice(1),
  ["Import a report", "/estate/imports/new"],
  ["Set up", "/estate/set-up"],
  ["Intake links", "/register/intake"],
  ["What came in", "/register/intake/came-in"],
  ["Links that are over", "/register/over"],
  ["Make a share", "/share"],
  ["Requests to share", "/share/requests"],
  ["My shares", "/my-shares"],
  ["What is open to anyone", "/register/public"],
  ["Help", "/help"],
  ["Your account", "/account"],
];
