import { ChevronDown } from 'lucide-react';
import { floating } from '../../controls/floating';
import { DropdownMenu, Popover } from 'radix-ui';
import { useState } from 'react';
import { beginLikeThis, restoreDemo } from '../../commands/scenes';
import { middleCut } from '../../controls/middleCut';
import { Name } from '../../controls/Name';
import { session } from '../../acts/session';
import { copyScene, newScene, removeScene, renameScene, showScenes } from '../../acts/wholeScenes';
import { when } from '../../controls/when';
import { lastScenes } from '../../state/lastScenes';
import { get, set, useStore, type Asking } from '../../state/store';

/** More would be a list to read; they are in the gallery. */
const few = 6;

/** The scene's name, the few scenes used last, and what is done with the open one. */
export function ScenesMenu() {
  const scene = useStore((s) => s.scene);
  const scenes = useStore((s) => s.scenes);
  const start = useStore((s) => s.settings.startScene);
  const listing = useStore((s) => s.listing);
  const asking = useStore((s) => s.asking);
  const setAsking = (what: Asking | null) => set({ asking: what });
  return (
    <Popover.Root open={asking !== null} onOpenChange={(open) => !open && setAsking(null)}>
      <Popover.Anchor asChild>
        <span>
          <DropdownMenu.Root
            modal={false}
            open={listing}
            onOpenChange={(open) => {
              set({ listing: open });
              if (open) void session.guarded(() => session.listScenes());
            }}
          >
            <DropdownMenu.Trigger className="btn-quiet text-[14px] font-semibold">
              {middleCut(scene?.name ?? 'No scene', 32)} <ChevronDown size={14} aria-hidden />
            </DropdownMenu.Trigger>
            <DropdownMenu.Portal container={floating()}>
              <DropdownMenu.Content className="menu w-72" align="start" sideOffset={4}>
                <DropdownMenu.Label className="px-2.5 py-1 text-ink-2">Used last</DropdownMenu.Label>
                {lastScenes(scenes, few).map((s) => (
                  <DropdownMenu.Item
                    key={s.id}
                    className="menu-item"
                    title={s.name}
                    onSelect={() => void session.guarded(() => session.open(s.id))}
                  >
                    <span className="w-3 text-plum" aria-hidden>
                      {s.id === scene?.id ? '●' : ''}
                    </span>
                    <Name text={s.name} className="flex-1" />
                    <span className="font-mono text-[11px] text-ink-2">{when(s.updatedAt)}</span>
                  </DropdownMenu.Item>
                ))}
                <DropdownMenu.Item className="menu-item" onSelect={() => later(showScenes)}>
                  <span className="w-3" aria-hidden />
                  All scenes…
                  <span className="ml-auto font-mono text-[11px] text-ink-2">{scenes.length}</span>
                </DropdownMenu.Item>
                <DropdownMenu.Separator className="menu-line" />
                <DropdownMenu.Item className="menu-item" onSelect={() => later(() => setAsking('new'))}>
                  New scene…
                </DropdownMenu.Item>
                <DropdownMenu.Item
                  className="menu-item"
                  disabled={!scene}
                  onSelect={() => later(() => setAsking('rename'))}
                >
                  Rename…
                </DropdownMenu.Item>
                <DropdownMenu.Item
                  className="menu-item"
                  disabled={!scene}
                  onSelect={() => later(() => setAsking('copy'))}
                >
                  Copy…
                </DropdownMenu.Item>
                <DropdownMenu.Item
                  className="menu-item"
                  disabled={!scene}
                  onSelect={() => later(() => setAsking('remove'))}
                >
                  Remove…
                </DropdownMenu.Item>
                <DropdownMenu.Item className="menu-item" disabled={!scene} onSelect={beginLikeThis}>
                  {start === scene?.id ? 'New scenes begin like this one ✓' : 'Let new scenes begin like this one'}
                </DropdownMenu.Item>
                <DropdownMenu.Separator className="menu-line" />
                <DropdownMenu.Item className="menu-item" onSelect={() => void session.guarded(restoreDemo)}>
                  Restore the demo
                </DropdownMenu.Item>
              </DropdownMenu.Content>
            </DropdownMenu.Portal>
          </DropdownMenu.Root>
        </span>
      </Popover.Anchor>
      <Popover.Portal container={floating()}>
        <Popover.Content className="menu w-72 p-3" align="start" sideOffset={4} aria-label="Scene">
          {asking && <Ask asking={asking} done={() => setAsking(null)} />}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** The menu gives the focus back as it closes; what is asked next waits for that. */
function later(act: () => void): void {
  setTimeout(act, 60);
}

function Ask({ asking, done }: { asking: Asking; done: () => void }) {
  const scene = get().scene;
  const [name, setName] = useState(
    asking === 'rename' ? (scene?.name ?? '') : asking === 'copy' ? `${scene?.name} copy` : 'New scene',
  );
  const act = () => {
    done();
    void session.guarded(() => perform(asking, name));
  };
  if (asking === 'remove') {
    return (
      <div className="flex flex-col gap-2">
        <span>
          Remove <b>{scene?.name}</b> with all its steps? It lies in the bin for thirty days.
        </span>
        <div className="flex justify-end gap-2">
          <button type="button" className="btn" onClick={done}>
            Keep it
          </button>
          <button type="button" className="btn border-refusal text-refusal" onClick={act}>
            Remove
          </button>
        </div>
      </div>
    );
  }
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        act();
      }}
    >
      <label className="flex flex-col gap-1">
        <span className="text-ink-2">{asking === 'rename' ? 'New name' : 'Name'}</span>
        <input
          autoFocus
          className="field text-left font-sans"
          value={name}
          maxLength={session.core.limits.name}
          onFocus={(e) => e.target.select()}
          onChange={(e) => setName(e.target.value)}
        />
      </label>
      <button type="submit" className="btn self-end" disabled={name.trim() === ''}>
        {asking === 'new' ? 'Make' : asking === 'copy' ? 'Copy' : 'Rename'}
      </button>
    </form>
  );
}

async function perform(asking: Asking, name: string): Promise<void> {
  const { scene } = get();
  if (asking === 'new') await newScene(name);
  else if (asking === 'rename') await renameScene(scene!.id, name);
  else if (asking === 'remove') await removeScene(scene!.id);
  else await session.open(await copyScene(scene!.id, name));
}
