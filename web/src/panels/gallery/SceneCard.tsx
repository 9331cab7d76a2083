import { Ellipsis } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { api } from '../../api/client';
import { session } from '../../acts/session';
import { floating } from '../../controls/floating';
import { MenuItem } from '../../controls/MenuItem';
import { Name } from '../../controls/Name';
import { when } from '../../controls/when';
import type { SceneSummary } from '../../wire/apiTypes';

/** What is asked of a card: a new name, or whether it shall go. */
export interface Asked {
  id: string;
  what: 'rename' | 'remove';
}

interface Acts {
  open(id: string): void;
  ask(asked: Asked): void;
  rename(id: string, name: string): void;
  copy(scene: SceneSummary): void;
  remove(id: string): void;
  leave(): void;
}

/** One scene: its picture, its name, how many objects it has, when it was changed and by whom. */
export function SceneCard(props: {
  scene: SceneSummary;
  isOpen: boolean;
  isChosen: boolean;
  asked: Asked['what'] | null;
  choose: () => void;
  acts: Acts;
}) {
  const { scene, isOpen, isChosen, asked, acts } = props;
  const by = scene.mine === null || scene.mine === undefined ? '' : scene.mine ? ' · by you' : ' · by somebody else';
  return (
    <div
      id={`scene-${scene.id}`}
      role="gridcell"
      aria-selected={isChosen}
      aria-label={`${scene.name}, ${scene.nodeCount} objects, ${when(scene.updatedAt)}${by}${isOpen ? ', open' : ''}`}
      className={`m-1 flex h-[204px] w-[224px] cursor-pointer flex-col overflow-hidden rounded-xl border bg-paper ${isChosen ? 'border-plum outline-1 outline-plum' : 'border-line'}`}
      onPointerMove={props.choose}
      onClick={(e) => {
        // What is pressed in its menu, which lies elsewhere on the page, comes by here, too.
        const at = e.target as Element;
        if (e.currentTarget.contains(at) && !at.closest('[data-asked], button')) acts.open(scene.id);
      }}
    >
      <div className="relative h-[140px] shrink-0 bg-stage">
        {scene.picture === null || scene.picture === undefined ? (
          <Blank />
        ) : (
          <img
            src={api.pictureOf(scene.id, scene.picture)}
            alt=""
            className="h-full w-full object-cover"
            draggable={false}
            loading="lazy"
          />
        )}
        {isOpen && <span className="absolute top-2 left-2 rounded-md bg-plum px-1.5 py-0.5 text-on-plum">open</span>}
      </div>
      {asked === 'rename' ? (
        <Rename scene={scene} acts={acts} />
      ) : asked === 'remove' ? (
        <Remove scene={scene} acts={acts} />
      ) : (
        <div className="flex min-h-0 flex-1 items-start gap-1 py-2 pr-1.5 pl-3">
          <div className="min-w-0 flex-1">
            <div className="flex font-semibold text-ink-1">
              <Name text={scene.name} />
            </div>
            <div className="truncate text-ink-2">
              {scene.nodeCount === 1 ? '1 object' : `${scene.nodeCount.toLocaleString('en')} objects`}
            </div>
            <div className="truncate text-ink-2">
              {when(scene.updatedAt)}
              {by}
            </div>
          </div>
          <More scene={scene} acts={acts} />
        </div>
      )}
    </div>
  );
}

/** No picture yet: some dots of the ground. */
function Blank() {
  return (
    <svg className="h-full w-full text-line" aria-hidden>
      <defs>
        <pattern id="no-picture" width="16" height="16" patternUnits="userSpaceOnUse">
          <circle cx="8" cy="8" r="1.2" fill="currentColor" />
        </pattern>
      </defs>
      <rect width="100%" height="100%" fill="url(#no-picture)" />
    </svg>
  );
}

function More({ scene, acts }: { scene: SceneSummary; acts: Acts }) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="btn-quiet h-6 px-1" aria-label={`More for ${scene.name}`}>
        <Ellipsis size={15} aria-hidden />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal container={floating()}>
        <DropdownMenu.Content className="menu" align="end" onCloseAutoFocus={(e) => e.preventDefault()}>
          <MenuItem word="Open" act={() => acts.open(scene.id)} />
          <MenuItem word="Rename…" act={() => acts.ask({ id: scene.id, what: 'rename' })} />
          <MenuItem word="Copy" act={() => acts.copy(scene)} />
          <MenuItem word="Remove…" act={() => acts.ask({ id: scene.id, what: 'remove' })} />
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Rename({ scene, acts }: { scene: SceneSummary; acts: Acts }) {
  return (
    <div className="p-2" data-asked>
      <input
        autoFocus
        className="field text-left font-sans"
        aria-label={`New name of ${scene.name}`}
        defaultValue={scene.name}
        maxLength={session.core.limits.name}
        onFocus={(e) => e.target.select()}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Enter') acts.rename(scene.id, e.currentTarget.value);
          else if (e.key === 'Escape') acts.leave();
        }}
        onBlur={(e) => acts.rename(scene.id, e.target.value === scene.name ? '' : e.target.value)}
      />
    </div>
  );
}

function Remove({ scene, acts }: { scene: SceneSummary; acts: Acts }) {
  return (
    <div
      className="flex flex-col gap-1 p-2"
      data-asked
      onKeyDown={(e) => {
        if (e.key !== 'Escape') return;
        e.stopPropagation();
        acts.leave();
      }}
    >
      <span className="text-ink-1">Into the bin, for thirty days?</span>
      <span className="flex gap-1">
        <button type="button" className="btn h-6" onClick={acts.leave}>
          Keep it
        </button>
        <button
          autoFocus
          type="button"
          className="btn h-6 border-refusal text-refusal"
          onClick={() => acts.remove(scene.id)}
        >
          Remove
        </button>
      </span>
    </div>
  );
}
