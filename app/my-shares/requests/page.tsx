import type { Metadata } from "next";
import { mySharesPage } from "../mySharesPage";

export const metadata: Metadata = { title: "Your requests" };

export default function Page() {
  return mySharesPage("requests");
}
