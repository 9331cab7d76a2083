import { Dialog } from 'radix-ui';
import { useState } from 'react';
import type { Rule, NodeKind } from '../../wire/apiTypes';
import { session } from '../../acts/session';
import { useStore } from '../../state/store';

const kinds: [NodeKind | '', string][] = [
  ['', 'any kind'],
  ['shape', 'shapes'],
  ['mesh', 'meshes'],
  ['group', 'groups'],
  ['light', 'lamps'],
  ['camera', 'cameras'],
];

/** Takes the focus once the menu has handed it back. */
const focusLater = (input: HTMLInputElement | null) => void setTimeout(() => input?.focus(), 60);

/** What makes objects members by themselves: all that is filled in must hold. */
export function RuleDialog({ collection, close }: { collection: string; close: () => void }) {
  const name = useStore((s) => s.byId.get(collection)?.name ?? '');
  const lead = useStore((s) => s.byId.get(s.selection.at(-1) ?? ''));
  const byId = useStore((s) => s.byId);
  const materials = useStore((s) => s.materials);
  const [rule, setRule] = useState<Rule>(() => session.core.collection(collection)?.rule ?? {});
  // Of a rule that was made elsewhere: more than can be chosen here, or a text of a former version.
  const chosen = (rule.materials ?? []) as string[];
  const several = chosen.length > 1 || Boolean(rule.material);
  const change = (part: Rule) => setRule({ ...rule, ...part });
  const keep = () => {
    const given = Object.fromEntries(Object.entries(rule).filter(([, v]) => v !== undefined && v !== ''));
    if (session.keep({ do: 'setRule', collection, rule: given })) close();
  };
  return (
    <Dialog.Root modal={false} open onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        {/* Not the modal kind: that sets an inline style, which the security policy forbids. */}
        <div className="fixed inset-0 z-40 bg-black/10" aria-hidden />
        <Dialog.Content
          className="fixed top-24 left-1/2 z-50 w-[420px] -translate-x-1/2 rounded-xl border border-line bg-paper p-4 shadow-float"
          aria-describedby={undefined}
          data-catches-keys
          // The menu that it was asked from hands the focus back as it closes; a press beside it leaves it.
          onFocusOutside={(e) => e.preventDefault()}
        >
          <Dialog.Title className="m-0 mb-2 text-[14px] font-semibold">Belongs to {name} by itself</Dialog.Title>
          <form
            className="grid grid-cols-[110px_1fr] items-center gap-2"
            onSubmit={(e) => {
              e.preventDefault();
              keep();
            }}
          >
            <label htmlFor="rule-name">Its name fits</label>
            <input
              id="rule-name"
              ref={focusLater}
              className="field text-left font-sans"
              placeholder="Rod* or Tread ?"
              value={rule.name ?? ''}
              onChange={(e) => change({ name: e.target.value })}
            />
            <label htmlFor="rule-kind">It is one of</label>
            <select
              id="rule-kind"
              className="field text-left font-sans"
              value={rule.kind ?? ''}
              onChange={(e) => setRule({ ...rule, kind: (e.target.value || undefined) as NodeKind })}
            >
              {kinds.map(([kind, word]) => (
                <option key={kind} value={kind}>
                  {word}
                </option>
              ))}
            </select>
            <label htmlFor="rule-material">Its material is</label>
            <select
              id="rule-material"
              className="field text-left font-sans"
              value={several ? 'several' : (chosen[0] ?? '')}
              onChange={(e) => {
                const { material: _, materials: __, ...rest } = rule;
                setRule(e.target.value === '' ? rest : { ...rest, materials: [e.target.value] });
              }}
            >
              <option value="">any</option>
              {several && (
                <option value="several" disabled>
                  {rule.material ?? `one of ${chosen.length}`}
                </option>
              )}
              {materials.map((m) => (
                <option key={m.id} value={m.id}>
                  {m.name}
                </option>
              ))}
            </select>
            <span>It rides on</span>
            <span className="flex items-center gap-2">
              <b className="min-w-0 truncate font-semibold">
                {rule.under ? (byId.get(rule.under)?.name ?? 'something that is gone') : 'anything'}
              </b>
              {lead && lead.kind !== 'mark' && (
                <button type="button" className="btn" onClick={() => change({ under: lead.id })}>
                  The lead
                </button>
              )}
              {rule.under && (
                <button type="button" className="btn" onClick={() => change({ under: '' })}>
                  Anything
                </button>
              )}
            </span>
            <span className="col-span-2 mt-2 flex justify-end gap-2">
              <Dialog.Close className="btn">Leave it</Dialog.Close>
              <button type="submit" className="btn border-plum text-plum">
                Keep the rule
              </button>
            </span>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
