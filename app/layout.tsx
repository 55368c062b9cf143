import type { Metadata } from "next";
import { headers } from "next/headers";
import { connection } from "next/server";
import type { ReactNode } from "react";
import { PagePolicy } from "@/ui/frame/PagePolicy";
import "@/ui/tokens.css";

export const metadata: Metadata = { title: { default: "Tight Latch", template: "%s · Tight Latch" } };

/** Every page is made on request: its security policy carries a nonce that is good once. */
export default async function RootLayout({ children }: { children: ReactNode }) {
  await connection();
  const nonce = (await headers()).get("x-nonce") ?? "";
  return (
    <html lang="en">
      <body>
        <PagePolicy nonce={nonce} />
        {children}
      </body>
    </html>
  );
}
