import type { Metadata } from "next";
import { RegisterScreen } from "@/ui/register/RegisterScreen";

export const metadata: Metadata = { title: "Register" };

export default function Page() {
  return <RegisterScreen />;
}
