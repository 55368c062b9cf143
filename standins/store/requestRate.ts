/** So many requests a second on average, and as many again in one burst. */
export class RequestRate {
  private left: number;
  private at = performance.now();

  constructor(private readonly perSecond: number) {
    this.left = perSecond;
  }

  allows(): boolean {
    const time = performance.now();
    this.left = Math.min(this.perSecond, this.left + ((time - this.at) / 1000) * this.perSecond);
    this.at = time;
    if (this.left < 1) return false;
    this.left--;
    return true;
  }
}
