/** So many requests a second on average, and as many again in one burst. */
export class RequestRate {
  private left: number;
  private at = performance.now();

  /** @param perSecond how many, asked at each request */
  constructor(private readonly perSecond: () => number) {
    this.left = perSecond();
  }

  allows(): boolean {
    const time = performance.now();
    const perSecond = this.perSecond();
    this.left = Math.min(perSecond, this.left + ((time - this.at) / 1000) * perSecond);
    this.at = time;
    if (this.left < 1) return false;
    this.left--;
    return true;
  }
}
