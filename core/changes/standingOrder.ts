/** A share that Tight Latch revokes itself at an instant, since its store keeps no such end. */
export interface StandingOrder {
  id: number;
  shareId: string;
  itemName: string;
  on: string;
  /** Who had it given. */
  by: string;
}
