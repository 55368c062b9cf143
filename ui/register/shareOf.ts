import type { StagedChange } from "@/core/changes/states";

/** The share that a staged change is on; empty where it is on none. */
export function shareOf({ change }: StagedChange): string {
  return "shareId" in change ? change.shareId : "";
}
