import { say } from './open';

/** Hands a file to the browser, and says so. */
export function hand(file: { blob: Blob; name: string; note?: string | null }): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(file.blob);
  link.download = file.name;
  link.click();
  // The browser takes the file in its own time.
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
  say({ kind: 'info', text: `Exported ${file.name}.${file.note ? ` ${file.note}` : ''}` });
}
