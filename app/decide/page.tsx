import type { Metadata } from "next";
import { theApp } from "@/server/theApp";
import { DecideScreen } from "@/ui/decide/DecideScreen";

export const metadata: Metadata = { title: "Your shares", robots: { index: false } };

export default async function Page() {
  return <DecideScreen now={(await theApp()).clock.seconds()} />;
}
