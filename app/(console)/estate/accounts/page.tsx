import type { Metadata } from "next";
import { AccountsScreen } from "@/ui/accounts/AccountsScreen";

export const metadata: Metadata = { title: "Who signs in" };

export default function Page() {
  return <AccountsScreen />;
}
