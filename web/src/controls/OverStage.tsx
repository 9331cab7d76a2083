import { X } from 'lucide-react';
import { useEffect, useRef, type ReactNode } from 'react';
import { set, useStore } from '../state/store';

/** Something that lies over the stage, above the sentence, until it is closed. */
export function OverStage(props: {
  title: string;
  remark?: ReactNode;
  acts?: ReactNode;
  narrow?: boolean;
  /** What closing it does; null: it is no longer what is open. */
  leave?: () => void;
  children: ReactNode;
}) {
  const leave = props.leave ?? (() => set({ open: null }));
  const foot = useStore((s) => s.foot);
  const box = useRef<HTMLElement>(null);
  useEffect(() => {
    // A menu that it was opened from takes the focus back first.
    const soon = setTimeout(() => {
      if (!box.current?.contains(document.activeElement)) box.current?.focus();
    }, 60);
    return () => clearTimeout(soon);
  }, []);
  return (
    <section
      ref={box}
      className={`absolute top-3 right-4 z-30 flex flex-col rounded-xl border border-line bg-paper shadow-float outline-none ${props.narrow ? 'w-[430px] max-w-[calc(100%-32px)]' : 'left-4'}`}
      style={{ bottom: foot + 8 }}
      aria-label={props.title}
      data-over
      tabIndex={-1}
      onKeyDown={(e) => {
        if (e.key === 'Escape' && !e.defaultPrevented) leave();
      }}
    >
      <header className="flex flex-wrap items-center gap-2 border-b border-line px-3 py-2">
        <h2 className="m-0 text-[14px] font-semibold">{props.title}</h2>
        {props.remark !== undefined && <span className="min-w-0 flex-1 text-ink-2">{props.remark}</span>}
        {props.acts}
        <button type="button" className="btn-quiet ml-auto px-1.5" aria-label={`Close: ${props.title}`} onClick={leave}>
          <X size={15} aria-hidden />
        </button>
      </header>
      {props.children}
    </section>
  );
}
