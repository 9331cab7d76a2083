// Tells what the official validator says of each file in a folder, errors and warnings: a line a file.
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

const { default: validator } = await import('../../web/node_modules/gltf-validator/index.js');
const folder = process.argv[2];
for (const name of readdirSync(folder)) {
  const report = await validator.validateBytes(new Uint8Array(readFileSync(join(folder, name))), { maxIssues: 0 });
  const said = report.issues.messages.filter((m) => m.severity <= 1).map((m) => `${m.code} ${m.pointer ?? ''} ${m.message}`);
  console.log(`${name}\t${said.join(' · ')}`);
}
