import { api } from '../api/client';
import { session } from './session';
import { get } from '../state/store';

/** Tells what nothing uses, and clears it when that is wanted. */
export async function clearUnused(): Promise<void> {
  await session.guarded(async () => {
    const id = get().scene?.id;
    if (!id) return;
    const { count, bytes } = await api.unused(id);
    const size = bytes < 1e5 ? `${Math.ceil(bytes / 1e3)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;
    if (count === 0) {
      session.say({ kind: 'info', text: 'Every stored geometry and picture is used by an object.' });
      return;
    }
    const what = count === 1 ? '1 stored geometry or picture' : `${count} stored geometries and pictures`;
    session.say({
      kind: 'warning',
      text: `No object uses ${what} (${size}). Once cleared, steps that removed them cannot be taken back.`,
      act: {
        word: 'Clear them',
        do: () =>
          void session.guarded(async () => {
            await api.clearUnused(id);
            session.say({ kind: 'info', text: `Cleared ${what} (${size}).` });
          }),
      },
    });
  });
}
