import NextLink from "next/link";
import type { ComponentProps } from "react";

type Props = Omit<ComponentProps<typeof NextLink>, "prefetch">;

/**
 * Leads to another screen. Nothing is fetched before it is clicked: pages hold no data, and to fetch them for every link
 * in sight, at every screen, took more of the application's time than the screen itself.
 */
export function Link(props: Props) {
  return <NextLink {...props} prefetch={false} />;
}
