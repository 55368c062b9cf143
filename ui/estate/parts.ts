/** The parts of the Estate, each at its own address, in the order in which a house is set up. */
export const ESTATE_PARTS: readonly (readonly [name: string, path: `/${string}`])[] = [
  ["Stores", "/estate"],
  ["Imports", "/estate/imports"],
  ["Directories", "/estate/directory"],
  ["Organisation", "/estate/home"],
  ["Labels", "/estate/labels"],
  ["Parties", "/estate/parties"],
  ["Who signs in", "/estate/accounts"],
  ["Messages", "/estate/messages"],
  ["Approval", "/estate/approval"],
  ["Sharing", "/estate/sharing"],
  ["Standing orders", "/estate/orders"],
  ["Deciders", "/estate/deciders"],
  ["Data", "/estate/data"],
];
