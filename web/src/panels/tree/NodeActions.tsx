import { Toolbar } from 'radix-ui';
import { hint } from '../../commands';
import { nothingToTakeOut, putUnder, takeOut } from '../../commands/assembling';
import { removePicked } from '../../commands/edit';
import { middleCut } from '../../controls/middleCut';
import { session } from '../../acts/session';
import { set, useStore } from '../../state/store';

/** What can be done to the picked objects as parts of the tree. */
export function NodeActions() {
  const selection = useStore((s) => s.selection);
  const lead = useStore((s) => s.byId.get(s.selection.at(-1) ?? ''));
  const many = selection.length > 1;
  const stays = useStore(() => nothingToTakeOut());
  return (
    <Toolbar.Root className="flex flex-wrap gap-1 border-t border-line p-2" aria-label="Picked objects">
      <Toolbar.Button
        className="btn"
        onClick={putUnder}
        title={many ? `Put the others under the lead${hint('under')}` : `Put it under another object${hint('under')}`}
      >
        {many ? `Put ${selection.length - 1} under ${middleCut(lead?.name ?? '', 14)}` : 'Put under…'}
      </Toolbar.Button>
      <Toolbar.Button
        className="btn"
        disabled={stays !== null}
        onClick={() => takeOut('top')}
        title={stays ?? `Take out to the top${hint('out')}`}
      >
        Take out
      </Toolbar.Button>
      {!many && (
        <Toolbar.Button
          className="btn"
          onClick={() => set({ renaming: lead?.id ?? null })}
          title={`Rename${hint('rename')}`}
        >
          Rename
        </Toolbar.Button>
      )}
      <Toolbar.Button
        className="btn"
        aria-pressed={lead?.locked ?? false}
        onClick={() => session.keep({ do: 'lock', nodes: selection, on: !lead?.locked })}
        title="Locked objects cannot be picked on the stage or edited"
      >
        {lead?.locked ? 'Unlock' : 'Lock'}
      </Toolbar.Button>
      <Toolbar.Button
        className="btn"
        onClick={removePicked}
        title={`Remove with all that rides along${hint('remove')}`}
      >
        Remove
      </Toolbar.Button>
    </Toolbar.Root>
  );
}
