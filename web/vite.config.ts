import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { readdirSync } from 'node:fs';
import { defineConfig, type Plugin } from 'vite';

const server = 'http://127.0.0.1:5080';

/**
 * Says in the document which scripts come after the first: those of the core, which it asks for one after the other, and those of the
 * page, which wait for none of them.
 */
function preloads(): Plugin {
  return {
    name: 'preloads',
    apply: 'build',
    transformIndexHtml: {
      order: 'post',
      handler(html, { bundle }) {
        const page = Object.values(bundle ?? {}).find((file) => file.type === 'chunk' && file.name === 'mount');
        const ofPage = page?.type === 'chunk' ? [page.fileName, ...page.imports] : [];
        const core = readdirSync(new URL('public/_framework', import.meta.url)).filter((name) =>
          /^dotnet(\.(runtime|native)\.\w+)?\.js$/.test(name),
        );
        const files = [...core.map((name) => `_framework/${name}`), ...ofPage].filter((file) => !html.includes(file));
        return files.map((file) => ({
          tag: 'link',
          attrs: { rel: 'modulepreload', href: `/${file}` },
          injectTo: 'head',
        }));
      },
    },
  };
}

export default defineConfig({
  plugins: [react(), tailwindcss(), preloads()],
  build: {
    target: 'es2022',
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
    rolldownOptions: {
      output: {
        advancedChunks: {
          groups: [
            // By itself, since the first script needs no more.
            { name: 'boot', test: /src\/(core\/boot|api\/ahead)|preload-helper/ },
            { name: 'three', test: /node_modules\/three/ },
            { name: 'shared', minShareCount: 2 },
          ],
        },
      },
    },
  },
  worker: { format: 'es' },
  server: { proxy: { '/api': server, '/openapi': server, '/hub': { target: server, ws: true } } },
});
