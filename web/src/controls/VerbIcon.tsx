import type { Verb } from '../state/store';

const drawings: Record<Verb | 'all', string> = {
  all: 'M10 10V3M7.5 5.5 10 3l2.5 2.5M10 10l-6 4M4 14l.3-3.2M4 14l3.2.4M13 8.2a5 5 0 0 1-1.2 7.3M14.5 14.5h3v3h-3z',
  move: 'M4 16 15 5M15 5H8.5M15 5v6.5M4 11.5V16h4.5',
  rotate: 'M15.8 8.2A6.3 6.3 0 1 0 16.3 10.6M16.4 4.2l-.5 4.2-4.2-.6',
  scale: 'M3.5 9.5v7h7v-7zM12 8l4.5-4.5M16.5 3.5h-4M16.5 3.5v4',
  pivot: 'M10 12m-5 0a5 5 0 1 0 10 0a5 5 0 1 0-10 0M10 2v5M10 12h.01',
};

/** The verbs' own drawings. */
export function VerbIcon({ verb }: { verb: Verb | 'all' }) {
  return (
    <svg
      width="20"
      height="20"
      viewBox="0 0 20 20"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.7"
      strokeLinecap="round"
      strokeLinejoin="round"
      aria-hidden
    >
      <path d={drawings[verb]} />
    </svg>
  );
}
