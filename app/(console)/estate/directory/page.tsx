import type { Metadata } from "next";
import { DirectoryScreen } from "@/ui/directory/DirectoryScreen";

export const metadata: Metadata = { title: "Directories" };

export default function Page() {
  return <DirectoryScreen />;
}
