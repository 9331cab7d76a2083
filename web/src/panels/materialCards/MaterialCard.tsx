import { useState } from 'react';
import type { MaterialReading } from '../../core/answers';
import {
  drawnPicked,
  give,
  makeMaterial,
  nothingDrawn,
  pickUsers,
  removeMaterial,
  setMaterials,
} from '../../acts/materials';
import { session } from '../../acts/session';
import { CardMenu, type CardAct } from '../../controls/CardMenu';
import { startGiving, stopGiving } from '../../stage/giving';
import { BallOf } from '../material/BallOf';

/** One material: its ball and its name. Dragged onto an object or a row, or pressed for what is picked. */
export function MaterialCard({ material, isLeads }: { material: MaterialReading; isLeads: boolean }) {
  const [renaming, setRenaming] = useState(false);
  const { id, name, users, surface } = material;
  const give_ = () => {
    const not = nothingDrawn();
    if (not) session.say({ kind: 'info', text: not });
    else give(id, drawnPicked());
  };
  const acts: CardAct[] = [
    { word: 'Give to the picked', act: give_, off: nothingDrawn() !== null },
    { word: 'Pick all that have it', act: () => pickUsers(id), off: users === 0 },
    null,
    { word: 'Copy', act: () => makeMaterial(id, []) },
    { word: 'Rename', act: () => setRenaming(true) },
    { word: 'Remove', act: () => removeMaterial(id) },
  ];
  return (
    <CardMenu acts={acts}>
      <div
        role="button"
        tabIndex={0}
        aria-label={`${name}, ${users === 0 ? 'not used' : `used by ${users}`}${isLeads ? ', the lead has it' : ''}`}
        data-material={id}
        title={`${name}\n${session.core.figuresOf(surface.color)}, rough ${surface.roughness}, metal ${surface.metalness}\n${users === 0 ? 'Nothing uses it' : `${users} ${users === 1 ? 'uses' : 'use'} it`}\nDrag it onto an object; press: give it to the picked`}
        draggable={!renaming}
        onDragStart={(e) => {
          e.dataTransfer.setData('text/calm-pivot-material', id);
          e.dataTransfer.effectAllowed = 'copy';
          startGiving(id);
        }}
        onDragEnd={() => stopGiving()}
        onClick={() => !renaming && give_()}
        onKeyDown={(e) => {
          if (renaming) return;
          if (e.key === 'Enter' || e.key === ' ') give_();
          else if (e.key === 'F2') setRenaming(true);
          else if (e.key === 'Delete') removeMaterial(id);
          else return;
          e.preventDefault();
          e.stopPropagation();
        }}
        className={`relative flex h-full cursor-pointer flex-col items-center justify-between rounded-lg border px-1 pt-1 pb-0.5 ${isLeads ? 'border-2 border-plum bg-wash' : 'border-line hover:border-edge'}`}
      >
        <BallOf id={id} size={56} />
        {renaming ? (
          <input
            autoFocus
            className="field h-5 w-full px-1 text-left"
            aria-label={`New name of ${name}`}
            defaultValue={name}
            maxLength={500}
            onFocus={(e) => e.target.select()}
            onClick={(e) => e.stopPropagation()}
            onKeyDown={(e) => {
              e.stopPropagation();
              if (e.key === 'Enter') e.currentTarget.blur();
              else if (e.key === 'Escape') setRenaming(false);
            }}
            onBlur={(e) => {
              setRenaming(false);
              const to = e.target.value.trim();
              if (to && to !== name) session.keep(...setMaterials([id], { name: to }));
            }}
          />
        ) : (
          <span className={`w-full truncate text-center ${isLeads ? 'font-semibold' : ''}`}>{name}</span>
        )}
        {users === 0 && (
          <span
            aria-hidden
            className="absolute top-1 left-1 rounded bg-paper/90 px-1 text-[10px] leading-[14px] text-ink-2"
          >
            unused
          </span>
        )}
      </div>
    </CardMenu>
  );
}
