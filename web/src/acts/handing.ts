import type { Zippable } from 'fflate';
import { fetched } from '../api/parts';
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

/** A name as files can have it. */
export const fileName = (name: string, otherwise: string) =>
  name.replace(/[^\p{L}\p{N} _-]/gu, '_').trim() || otherwise;

/** Pictures that are handed over together, each under a name of its own. */
export class Pictures {
  private readonly files: Zippable = {};
  private size = 0;

  private constructor(private readonly zip: typeof import('fflate').zip) {}

  /** Before any of them is drawn: what puts them together may be out of reach. */
  static async begin(): Promise<Pictures> {
    const { zip } = await fetched(() => import('fflate'));
    return new Pictures(zip);
  }

  get isEmpty(): boolean {
    return this.size === 0;
  }

  async add(name: string, picture: Blob): Promise<void> {
    const own = (n: number) => `${name}${n === 1 ? '' : ` ${n}`}.png`;
    let n = 1;
    while (own(n) in this.files) n++;
    // Pictures are as small as they get.
    this.files[own(n)] = [new Uint8Array(await picture.arrayBuffer()), { level: 0 }];
    this.size++;
  }

  remark(name: string, text: string): void {
    this.files[name] = new TextEncoder().encode(text);
  }

  async hand(name: string): Promise<void> {
    const bytes = await new Promise<Uint8Array<ArrayBuffer>>((done, failed) =>
      this.zip(this.files, (error, all) => (error ? failed(error) : done(all as Uint8Array<ArrayBuffer>))),
    );
    hand({ blob: new Blob([bytes], { type: 'application/zip' }), name: `${name}.zip` });
  }
}
