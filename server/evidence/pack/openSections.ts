import type { ReportSection } from "@/core/evidence/report";
import type { AskingEstate } from "../../engine/client";
import { figuresSection, findingsSection } from "../report/figures";
import { endsOf } from "./span";
import type { PackSpan } from "./tables";

/** What the report says of both days; the engine is asked for it, about the last one first. */
export async function openSections(app: AskingEstate, span: PackSpan): Promise<ReportSection[]> {
  const { to, scope } = span;
  const found = await findingsSection(app, to, scope);
  const words = "Live outside shares at the end of the first and of the last day.";
  return [await figuresSection(app, endsOf(span), words, scope), found];
}
