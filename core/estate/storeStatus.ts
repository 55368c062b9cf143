/** How the reading of one store stands. */
export interface StoreStatus {
  id: string;
  name: string;
  /** Records read in the first reading. */
  records: number;
  lastReadAt: string | null;
  /** Why the last reading failed, or null. */
  lastError: string | null;
}
