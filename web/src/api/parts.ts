import { OutOfReach, Refused } from './client';

/**
 * A part of the page that is fetched when it is first needed: out of reach while the server is. A server that answers and
 * has it no more was renewed since this page was opened.
 */
export async function fetched<T>(part: () => Promise<T>): Promise<T> {
  try {
    return await part();
  } catch {
    const answers = await fetch('/healthz').then(
      (answer) => answer.ok,
      () => false,
    );
    if (!answers) throw new OutOfReach();
    throw new Refused(
      'not-found',
      'The page was renewed on the server. Reload it to open this; what you did is kept.',
      404,
    );
  }
}
