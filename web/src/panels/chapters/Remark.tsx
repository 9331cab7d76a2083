import type { ReactNode } from 'react';

/** A line where a chapter has nothing else to show. */
export function Remark({ children }: { children: ReactNode }) {
  return <p className="m-0 p-4 text-ink-2">{children}</p>;
}
