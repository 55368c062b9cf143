import { type ReactNode, useId } from "react";

interface Props {
  title: string;
  /** What it is for, in a sentence or two. */
  about?: ReactNode;
  children: ReactNode;
}

/** One part of one's account. */
export function Part({ title, about, children }: Props) {
  const id = useId();
  return (
    <section aria-labelledby={id} className="mt-7 border-t border-line-strong pt-4">
      <h2 id={id} className="text-[17px] font-semibold">
        {title}
      </h2>
      {about && <p className="mt-0.5 mb-3 text-ink-soft">{about}</p>}
      {children}
    </section>
  );
}
