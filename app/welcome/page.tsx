import type { Metadata } from "next";
import { WelcomeScreen } from "@/ui/signIn/WelcomeScreen";

export const metadata: Metadata = { title: "Choose a password", robots: { index: false } };

export default function Page() {
  return <WelcomeScreen />;
}
