import { X } from 'lucide-react';
import { Dialog, Tabs } from 'radix-ui';
import { useStore, get, set } from '../../state/store';
import { sections, type Section } from '../../state/sections';
import { FilePart } from './FilePart';
import { KeysPart } from './KeysPart';
import { LooksPart } from './LooksPart';
import { PanelsPart } from './PanelsPart';
import { PickingPart } from './PickingPart';
import { PointerPart } from './PointerPart';

const parts: Record<Section, () => React.ReactNode> = {
  Looks: LooksPart,
  Pointer: PointerPart,
  Picking: PickingPart,
  Panels: PanelsPart,
  Keys: KeysPart,
  File: FilePart,
};

/** All that a person can set; what is changed acts at once and is kept on the server. The scene stays in sight. */
export function SettingsDialog() {
  const open = useStore((s) => s.open === 'settings');
  const at = useStore((s) => s.settingsAt);
  return (
    <Dialog.Root modal={false} open={open} onOpenChange={(o) => !o && get().open === 'settings' && set({ open: null })}>
      <Dialog.Portal>
        <Dialog.Content
          className="fixed top-[8vh] left-1/2 z-40 flex h-[min(600px,84vh)] w-[720px] max-w-[96vw] -translate-x-1/2 flex-col overflow-hidden rounded-xl border border-line bg-paper shadow-float"
          aria-describedby={undefined}
          onInteractOutside={(e) => e.preventDefault()}
        >
          <div className="flex h-11 items-center justify-between border-b border-line pr-2 pl-4">
            <Dialog.Title className="m-0 text-[14px] font-semibold">Settings</Dialog.Title>
            <Dialog.Close className="btn-quiet" aria-label="Close the settings" title="Close (Esc)">
              <X size={16} aria-hidden />
            </Dialog.Close>
          </div>
          <Tabs.Root
            orientation="vertical"
            value={at}
            onValueChange={(v) => set({ settingsAt: v as Section })}
            className="flex min-h-0 flex-1"
          >
            <Tabs.List className="flex w-32 shrink-0 flex-col gap-0.5 border-r border-line p-2" aria-label="Settings">
              {sections.map((s) => (
                <Tabs.Trigger
                  key={s}
                  value={s}
                  className="rounded-lg px-2.5 py-1.5 text-left hover:bg-line/40 data-[state=active]:bg-wash data-[state=active]:font-semibold data-[state=active]:text-plum"
                >
                  {s}
                </Tabs.Trigger>
              ))}
            </Tabs.List>
            {sections.map((s) => {
              const Part = parts[s];
              return (
                <Tabs.Content key={s} value={s} className="min-w-0 flex-1 overflow-auto px-5 py-3">
                  <Part />
                </Tabs.Content>
              );
            })}
          </Tabs.Root>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
