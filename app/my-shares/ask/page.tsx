import type { Metadata } from "next";
import { mySharesPage } from "../mySharesPage";

export const metadata: Metadata = { title: "Ask for a share" };

export default function Page() {
  return mySharesPage("ask");
}
