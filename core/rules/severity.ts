/** How much a finding or an alert matters, the most last. */
export const SEVERITIES = ["low", "high", "urgent"] as const;
export type Severity = (typeof SEVERITIES)[number];
