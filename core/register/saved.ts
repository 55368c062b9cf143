/** A query that somebody keeps under a name. */
export interface SavedQuery {
  id: string;
  name: string;
  /** The query, as it is in the register's address. */
  view: string;
  isOwn: boolean;
  forAll: boolean;
  /** How many shares it finds now. */
  count: number;
}

/** How somebody has set up their table. */
export interface TableSetting {
  /** Columns by id, in order; those that are left out are hidden. */
  columns: string[];
  /** Widths in pixels of columns that were resized. */
  widths: Record<string, number>;
  isCompact: boolean;
}

/** What the register remembers for one person. */
export interface RegisterSettings {
  table: TableSetting | null;
  /** Id of the kept query that the register begins with. */
  start: string | null;
  /** The text of that query. */
  startView: string | null;
  /** When they last began to look, and the time before that: what was made since then is new to them. */
  looked: string | null;
  lookedBefore: string | null;
}
