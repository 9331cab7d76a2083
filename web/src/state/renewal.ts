/** What is kept beside the slices and belongs to the person or the scene puts itself back when the page begins anew. */
const all: (() => void)[] = [];

export function onRenewal(putBack: () => void): void {
  all.push(putBack);
}

export function putAllBack(): void {
  for (const putBack of all) putBack();
}
