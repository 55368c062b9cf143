import type { ReactNode } from "react";
import { EstateNav } from "@/ui/estate/EstateNav";

export default function Layout({ children }: { children: ReactNode }) {
  return (
    <div className="grid h-full grid-rows-[auto_minmax(0,1fr)]">
      <EstateNav />
      {children}
    </div>
  );
}
