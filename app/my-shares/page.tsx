import type { Metadata } from "next";
import { mySharesPage } from "./mySharesPage";

export const metadata: Metadata = { title: "My shares" };

export default function Page() {
  return mySharesPage(null);
}
