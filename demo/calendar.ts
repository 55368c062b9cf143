/** Days around the day on which the demo is made, as records hold them. */
export class Calendar {
  constructor(private readonly now: Date) {}

  get today(): string {
    return text(this.now);
  }

  /** A moment so many days ago; a fraction of a day is part of the day. */
  daysAgo(days: number): string {
    return text(new Date(this.now.getTime() - Math.round(days * 86_400) * 1000));
  }

  inDays(days: number): string {
    return this.daysAgo(-days);
  }
}

function text(date: Date): string {
  return date.toISOString().replace(/\.\d+Z$/, "Z");
}
