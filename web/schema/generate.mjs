// Makes the page's types from what the server says of its API (api.json) and the core of its bridge (bridge.json); both are
// written by the tests when CALM_PIVOT_WRITE_TYPES is set, and compared with otherwise. With --check nothing is written.
import { readFile, writeFile } from 'node:fs/promises';
import openapiTS, { astToString } from 'openapi-typescript';

const outputs = [
  { from: 'api.json', to: '../src/wire/apiTypes.ts', of: 'the API, as the server describes it' },
  { from: 'bridge.json', to: '../src/wire/bridgeTypes.ts', of: 'the bridge, as its context of JSON describes them' },
];

/** Only short lists of numbers are worth a type with a fixed length. */
function loosened(schema) {
  if (schema === null || typeof schema !== 'object') return schema;
  if (Array.isArray(schema)) return schema.map(loosened);
  const { minItems, maxItems, ...rest } = Object.fromEntries(Object.entries(schema).map(([k, v]) => [k, loosened(v)]));
  return minItems === undefined || minItems > 4 ? rest : { ...rest, minItems, maxItems };
}

/** Places and bits that have names. */
function numbers(named) {
  return Object.entries(named ?? {}).map(
    ([name, values]) =>
      `\nexport const ${name[0].toLowerCase()}${name.slice(1)} = ${JSON.stringify(values, null, 2)} as const;\n`,
  );
}

let stale = 0;
for (const { from, to, of } of outputs) {
  const document = JSON.parse(await readFile(new URL(from, import.meta.url), 'utf8'));
  const nodes = await openapiTS(loosened(document), {
    arrayLength: true,
    rootTypes: true,
    rootTypesNoSchemaPrefix: true,
    defaultNonNullable: false,
  });
  const text = `/** The types of ${of}. Made by scripts/types.sh: not by hand. */\n${astToString(nodes)}${numbers(document['x-numbers']).join('')}`;
  const place = new URL(to, import.meta.url);
  if (!process.argv.includes('--check')) await writeFile(place, text);
  else if ((await readFile(place, 'utf8').catch(() => '')) !== text) {
    stale++;
    console.error(`${to} is not what ${from} says: run scripts/types.sh.`);
  }
}
process.exit(stale > 0 ? 1 : 0);
