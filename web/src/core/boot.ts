import type { Exports } from './exports';

/** What runs them, with the views of its memory. */
export interface Runtime {
  getAssemblyExports(name: string): Promise<{ CalmPivot: { Browser: { Bridge: Exports } } }>;
  getConfig(): { mainAssemblyName: string };
  localHeapViewF64(): Float64Array;
  localHeapViewI32(): Int32Array;
  localHeapViewU16(): Uint16Array;
}

let booting: Promise<Booted> | null = null;

/** Fetches the core and starts it, once: as soon as the page's first script runs, while the others come. */
export function bootCore(): Promise<Booted> {
  return (booting ??= boot());
}

export interface Booted {
  runtime: Runtime;
  exports: Exports;
}

async function boot(): Promise<Booted> {
  const url = new URL(`${import.meta.env.BASE_URL}_framework/dotnet.js`, document.baseURI).href;
  const { dotnet } = (await import(/* @vite-ignore */ url)) as { dotnet: { create(): Promise<Runtime> } };
  const runtime = await dotnet.create();
  const all = await runtime.getAssemblyExports(runtime.getConfig().mainAssemblyName);
  return { runtime, exports: all.CalmPivot.Browser.Bridge };
}
