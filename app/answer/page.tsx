import type { Metadata } from "next";
import { theApp } from "@/server/theApp";
import { AnswerScreen } from "@/ui/answer/AnswerScreen";

export const metadata: Metadata = { title: "Your shares", robots: { index: false } };

export default async function Page() {
  return <AnswerScreen now={(await theApp()).clock.seconds()} />;
}
