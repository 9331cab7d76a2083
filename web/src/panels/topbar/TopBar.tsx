import { Moon, Redo2, Search, SlidersHorizontal, Sun, Undo2 } from 'lucide-react';
import { floating } from '../../controls/floating';
import { DropdownMenu } from 'radix-ui';
import { FileInput } from '../../controls/FileInput';
import { middleCut } from '../../controls/middleCut';
import { askForFile, importFile } from '../../acts/importing';
import { sendSheet } from '../../acts/sheetFile';
import { download } from '../../acts/longWork';
import { askForList, readList, sendList, sendPictures } from '../../acts/shotLists';
import { session } from '../../acts/session';
import { set, useStore } from '../../state/store';
import { hint } from '../../commands';
import { openSteps } from '../../commands/page';
import { labelOf } from '../../commands/chords';
import { KeysList } from '../settingsDialog/KeysList';
import { ScenesMenu } from './ScenesMenu';

/** Logo, scene, state; undo and redo; in and out. */
export function TopBar() {
  const theme = useStore((s) => s.settings.theme ?? 'day');
  const scene = useStore((s) => s.scene);
  const open = useStore((s) => s.open);
  const hasShots = useStore((s) => s.shots.length > 0);
  const shot = useStore((s) => s.shots.find((one) => one.id === s.shot));
  const mark = useStore((s) => s.byId.get(s.currentMark ?? '')?.name);
  const lead = useStore((s) => s.byId.get(s.selection.at(-1) ?? '')?.name);
  return (
    <header className="flex h-11 shrink-0 items-center gap-2 border-b border-line bg-paper px-3">
      <h1 className="m-0 flex">
        <Logo />
      </h1>
      <ScenesMenu />
      <SavedState />
      <div className="flex-1" />
      <button
        type="button"
        className="btn-quiet"
        title={`Undo${hint('undo')}`}
        onClick={() => void session.restore('undo')}
      >
        <Undo2 size={15} aria-hidden /> Undo
      </button>
      <button
        type="button"
        className="btn-quiet"
        title={`Redo${hint('redo')}`}
        onClick={() => void session.restore('redo')}
      >
        <Redo2 size={15} aria-hidden /> Redo
      </button>
      <button
        type="button"
        className="btn-quiet"
        title={`Steps: the history${hint('history')}`}
        aria-pressed={open === 'steps'}
        onClick={openSteps}
      >
        Steps
      </button>
      <button
        type="button"
        className="btn text-ink-2"
        title={`Find anything${hint('find')}`}
        onClick={() => set({ open: 'find' })}
      >
        <Search size={13} aria-hidden /> Find anything
        <kbd className="ml-1 font-mono text-[11px]">{labelOf('Ctrl+k')}</kbd>
      </button>
      <KeysList />
      <button
        type="button"
        className="btn-quiet"
        title={`Settings${hint('settings')}`}
        aria-label="Settings"
        onClick={() => set({ open: open === 'settings' ? null : 'settings' })}
      >
        <SlidersHorizontal size={15} aria-hidden />
      </button>
      <button
        type="button"
        className="btn-quiet"
        title={theme === 'day' ? 'Night colours' : 'Day colours'}
        aria-label={theme === 'day' ? 'Night colours' : 'Day colours'}
        onClick={() => session.saveSettings({ theme: theme === 'day' ? 'night' : 'day' })}
      >
        {theme === 'day' ? <Moon size={15} aria-hidden /> : <Sun size={15} aria-hidden />}
      </button>
      <FileInput
        data-import
        accept=".glb,.gltf,.zip"
        aria-label="File to import"
        chosen={(file) => void importFile(file)}
      />
      <FileInput
        data-shot-list
        accept=".csv,.otio,.json,.tsv,.txt"
        aria-label="List of shots to bring in"
        chosen={(file) => void readList(file)}
      />
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger className="btn">Import</DropdownMenu.Trigger>
        <DropdownMenu.Portal container={floating()}>
          <DropdownMenu.Content className="menu" align="end" sideOffset={4}>
            <DropdownMenu.Item className="menu-item" onSelect={() => askForFile({ to: 'new' })}>
              As a new scene…
            </DropdownMenu.Item>
            <DropdownMenu.Item className="menu-item" disabled={!scene} onSelect={() => askForFile({ to: 'here' })}>
              Into this scene…
              <span className="ml-auto pl-6 text-ink-2">
                {mark ? `at the mark ${middleCut(mark, 20)}` : 'at world zero'}
              </span>
            </DropdownMenu.Item>
            <DropdownMenu.Item
              className="menu-item"
              disabled={lead === undefined}
              {...(lead === undefined ? { title: 'Pick what is to carry it.' } : {})}
              onSelect={() => askForFile({ to: 'under' })}
            >
              Under {lead === undefined ? 'the lead' : middleCut(lead, 24)}…
            </DropdownMenu.Item>
            <DropdownMenu.Item className="menu-item" disabled={!scene} onSelect={() => askForList()}>
              A list of shots…
              <span className="ml-auto pl-6 text-ink-2">.csv, .otio, .json</span>
            </DropdownMenu.Item>
            <DropdownMenu.Label className="px-2.5 py-1 text-ink-2">
              glTF 2.0 (.glb, .gltf, .zip). A file can be dropped on the stage, too.
            </DropdownMenu.Label>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger className="btn" disabled={!scene}>
          Export
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal container={floating()}>
          <DropdownMenu.Content className="menu" align="end" sideOffset={4}>
            {(['glb', 'gltf'] as const).map((format) => (
              <DropdownMenu.Item
                key={format}
                className="menu-item"
                onSelect={() => void session.guarded(() => download(format))}
              >
                glTF 2.0, {format === 'glb' ? 'one binary file' : 'as text'}{' '}
                <span className="ml-auto text-ink-2">.{format}</span>
              </DropdownMenu.Item>
            ))}
            {hasShots && (
              <>
                <DropdownMenu.Separator className="menu-line" />
                <DropdownMenu.Item
                  className="menu-item"
                  disabled={shot === undefined}
                  {...(shot === undefined ? { title: 'No shot is current.' } : {})}
                  onSelect={() => void session.guarded(() => download('glb', shot!.id))}
                >
                  {shot === undefined ? 'This shot alone' : `${middleCut(shot.title, 24)} alone`}
                  <span className="ml-auto pl-6 text-ink-2">.glb</span>
                </DropdownMenu.Item>
                <DropdownMenu.Item className="menu-item" onSelect={() => sendList('csv')}>
                  The list of shots, as a table <span className="ml-auto pl-6 text-ink-2">.csv</span>
                </DropdownMenu.Item>
                <DropdownMenu.Item className="menu-item" onSelect={() => sendList('otio')}>
                  The list of shots, as a timeline <span className="ml-auto pl-6 text-ink-2">.otio</span>
                </DropdownMenu.Item>
                <DropdownMenu.Item className="menu-item" onSelect={() => void session.guarded(sendPictures)}>
                  The pictures of all shots <span className="ml-auto pl-6 text-ink-2">.zip</span>
                </DropdownMenu.Item>
                <DropdownMenu.Item className="menu-item" onSelect={() => void session.guarded(sendSheet)}>
                  The contact sheet <span className="ml-auto pl-6 text-ink-2">.png</span>
                </DropdownMenu.Item>
              </>
            )}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </header>
  );
}

/** A ring that turns about its dot. */
function Logo() {
  return (
    <svg
      width="26"
      height="26"
      viewBox="0 0 32 32"
      fill="none"
      stroke="currentColor"
      strokeWidth="3"
      role="img"
      aria-label="Calm Pivot"
    >
      <circle cx="16" cy="18" r="10.5" />
      <path d="M16 2v11" strokeLinecap="round" />
      <circle cx="16" cy="18" r="3.4" fill="var(--plum)" stroke="none" />
    </svg>
  );
}

/** What keeps steps from being stored; a server that says it is well again is about to be reached. */
const troubles = {
  ok: 'Server out of reach',
  'no room': 'No room on the server’s disk',
  'no database': 'The server cannot store',
};

function SavedState() {
  const online = useStore((s) => s.online);
  const wellness = useStore((s) => s.wellness);
  const waiting = useStore((s) => s.waiting);
  const stepNumber = useStore((s) => s.stepNumber);
  const edits = waiting === 1 ? '1 edit' : `${waiting} edits`;
  if (!online) {
    return (
      <span className="font-semibold text-refusal" role="status">
        ✕ {troubles[wellness ?? 'ok']}
        {waiting > 0 ? ` · ${edits} kept here, to be sent` : ''}
      </span>
    );
  }
  return (
    <span className="text-ink-2" role="status">
      {waiting > 0 ? `Saving ${edits}…` : `Saved${stepNumber === null ? '' : ` · step ${stepNumber}`}`}
    </span>
  );
}
