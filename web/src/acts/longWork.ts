import { api, Refused, Stopped, type Asked, type Progress } from '../api/client';
import { loading } from './loader';
import { hand } from './handing';
import { session } from './session';
import { get } from '../state/store';

/** What the server is doing for this page that takes long; one at a time is shown. */
let going: { what: string; work: string; stop: AbortController } | null = null;

/**
 * Asks for something long. Meanwhile it is said how far it is, with a button that stops it.
 * @returns What came of it; null where it was stopped.
 */
export async function longWork<T>(what: string, ask: (asked: Asked) => Promise<T>): Promise<T | null> {
  const mine = { what, work: crypto.randomUUID(), stop: new AbortController() };
  going = mine;
  say(what);
  try {
    return await ask({ page: session.page, work: mine.work, signal: mine.stop.signal });
  } catch (error) {
    if (!(error instanceof Stopped) && !(error instanceof Refused && error.refusal === 'stopped')) throw error;
    session.say({ kind: 'info', text: `Stopped: ${what}.` });
    return null;
  } finally {
    if (going === mine) going = null;
  }
}

loading.progressed = ({ doing, done, all }: Progress): void => {
  const count = all > 0 ? ` ${done.toLocaleString('en')} of ${all.toLocaleString('en')}` : '';
  if (going) say(`${going.what}: ${doing.charAt(0).toLowerCase()}${doing.slice(1)}${count}`);
};

function say(text: string): void {
  const { work, stop } = going!;
  session.say({ kind: 'info', text: `${text}…`, act: { word: 'Stop', do: () => void halt(work, stop) } });
}

/** Stops work. Where the server says that it was too late, what it made is taken as if nobody had stopped it. */
async function halt(work: string, stop: AbortController): Promise<void> {
  const ended = await api.stopWork(work).catch(() => 'unknown');
  if (ended !== 'done') stop.abort();
}

/** Has the scene written as a file, and hands it to the browser. */
export async function download(format: 'glb' | 'gltf', shot: string | null = null): Promise<void> {
  const { scene, shots } = get();
  const what = shots.find((s) => s.id === shot)?.title ?? scene!.name;
  const file = await longWork(`Exporting ${what}`, (asked) => api.export(scene!.id, format, shot, asked));
  if (file) hand(file);
}
