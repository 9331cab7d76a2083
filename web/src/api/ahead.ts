/** Documents of scenes that were asked for before the page's other scripts had run. */
const asked = new Map<string, Promise<Uint8Array | null>>();

/** Asks for the document of the scene that the link names, while scripts and core come. */
export function askAhead(scene: string): void {
  asked.set(scene, fetchDocument(scene));
}

/** What was asked for ahead, once; of null it could not be had. */
export function takeAhead(scene: string): Promise<Uint8Array | null> | null {
  const document = asked.get(scene) ?? null;
  asked.delete(scene);
  return document;
}

async function fetchDocument(scene: string): Promise<Uint8Array | null> {
  try {
    const answer = await fetch(`/api/scenes/${encodeURIComponent(scene)}/document`);
    return answer.ok ? new Uint8Array(await answer.arrayBuffer()) : null;
  } catch {
    // Who opens the scene asks again, and says what is wrong.
    return null;
  }
}
