import { OutOfReach } from './client';

/** A part of the page that is fetched when it is first needed: out of reach while the server is. */
export const fetched = async <T>(part: () => Promise<T>): Promise<T> => {
  try {
    return await part();
  } catch {
    throw new OutOfReach();
  }
};
