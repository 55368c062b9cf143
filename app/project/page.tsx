import type { Metadata } from "next";
import { theApp } from "@/server/theApp";
import { EndingScreen } from "@/ui/engagements/EndingScreen";

export const metadata: Metadata = { title: "A project ends", robots: { index: false } };

export default async function Page() {
  return <EndingScreen now={(await theApp()).clock.seconds()} />;
}
