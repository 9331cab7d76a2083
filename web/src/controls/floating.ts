/** Where menus and small panels stand that float over the page: a landmark of its own, so that nothing lies outside of one. */
export function floating(): HTMLElement | null {
  return document.getElementById('floating');
}
