import type { ReactNode } from 'react';
import { ErrorBoundary } from 'react-error-boundary';

/** A region of the page that can fail by itself: the others stay, and what was done is kept. */
export function Region(props: { name: string; children: ReactNode }) {
  return (
    <ErrorBoundary
      fallbackRender={({ resetErrorBoundary }) => (
        <div role="alert" className="m-3 rounded-lg border border-line bg-paper p-3 text-ink-2">
          <p className="m-0 mb-2">{props.name} cannot be shown just now. What you did is kept.</p>
          <button type="button" className="btn" onClick={() => resetErrorBoundary()}>
            Show it again
          </button>
        </div>
      )}
    >
      {props.children}
    </ErrorBoundary>
  );
}
