import { DropdownMenu } from 'radix-ui';
import { MoreHorizontal } from 'lucide-react';
import { api } from '../../api/client';
import type { Still } from '../../wire/apiTypes';
import { again, depthSays, downloadStill, lookAt, removeStill, time } from '../../acts/stills';
import { MenuItem } from '../../controls/MenuItem';
import { floating } from '../../controls/floating';
import { get, set, useStore } from '../../state/store';

/** One still: a small picture, of what, how large, how it was made. Pressed, it is looked at beside the one before. */
export function StillCard({ still }: { still: Still }) {
  const scene = useStore((s) => s.scene!.id);
  const shown = useStore((s) => s.stillShown?.still === still.id && s.open === 'still');
  const passes = `${still.passes} ${still.passes === 1 ? 'pass' : 'passes'}`;
  const depth = depthSays(still);
  const says = `${still.name}, revision ${still.revision}, ${still.width} × ${still.height} pixels, ${passes}, ${time(still.seconds)}`;
  return (
    <div
      className={`relative flex h-full flex-col items-center rounded-lg border px-1 pt-1 ${shown ? 'border-2 border-plum' : 'border-line'}`}
      data-still={still.id}
    >
      <button
        type="button"
        className="grid h-14 w-full place-items-center overflow-hidden rounded"
        aria-label={`Look at the still ${says}`}
        title={says}
        onClick={() => lookAt(still.id)}
      >
        <img
          src={api.stillAt(scene, still.id, still.parts.includes('small') ? 'small' : 'picture')}
          alt=""
          draggable={false}
          className="max-h-14 max-w-full rounded-[3px]"
        />
      </button>
      <span className="w-full truncate pr-5">{still.name}</span>
      <span className="w-full truncate font-mono text-[10px] text-ink-2">
        {still.width}×{still.height} · {still.passes}×
      </span>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger
          className="absolute right-0.5 bottom-0.5 grid h-6 w-6 place-items-center rounded text-ink-2 hover:text-plum"
          aria-label={`More of the still ${still.name}, revision ${still.revision}`}
          title="More"
        >
          <MoreHorizontal size={14} aria-hidden />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal container={floating()}>
          <DropdownMenu.Content className="menu" side="top" align="end" sideOffset={4}>
            <MenuItem word="Look at it" act={() => lookAt(still.id)} />
            <MenuItem
              word="Compare it with the one that is looked at"
              off={get().stillShown === null || get().stillShown?.still === still.id}
              act={() => set({ stillShown: { still: get().stillShown!.still, beside: still.id }, open: 'still' })}
            />
            <MenuItem word="The same again" off={get().making !== null} act={() => again(still)} />
            <DropdownMenu.Separator className="menu-line" />
            <MenuItem word="Download it" act={() => downloadStill(still)} />
            {still.parts.includes('depth') && (
              <MenuItem
                word={`Download its depth${depth === null ? '' : ` (${depth})`}`}
                act={() => downloadStill(still, 'depth')}
              />
            )}
            {still.parts.includes('mask') && (
              <MenuItem word="Download the mask of its objects" act={() => downloadStill(still, 'mask')} />
            )}
            <DropdownMenu.Separator className="menu-line" />
            <MenuItem word="Remove it" act={() => void removeStill(still.id)} />
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </div>
  );
}
