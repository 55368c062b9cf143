import type { Metadata } from "next";
import { mySharesPage } from "../mySharesPage";

export const metadata: Metadata = { title: "My shares" };

export default async function Page({ params }: { params: Promise<{ round: string }> }) {
  return mySharesPage(Number((await params).round));
}
