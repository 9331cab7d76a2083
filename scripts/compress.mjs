// Compresses what the page's build left plain, so that the server only hands out files.
import { readdirSync, readFileSync, statSync, writeFileSync, existsSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';

const worth = /\.(js|css|html|svg|json|wasm|dat)$/;

function walk(folder) {
  for (const name of readdirSync(folder)) {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) walk(path);
    else if (worth.test(name)) compress(path);
  }
}

function compress(path) {
  const bytes = readFileSync(path);
  if (bytes.length < 1024) return;
  if (!existsSync(`${path}.br`)) {
    writeFileSync(`${path}.br`, brotliCompressSync(bytes, { params: { [constants.BROTLI_PARAM_QUALITY]: 11 } }));
  }
  if (!existsSync(`${path}.gz`)) writeFileSync(`${path}.gz`, gzipSync(bytes, { level: 9 }));
}

walk(process.argv[2]);
