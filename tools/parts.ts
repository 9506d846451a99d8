// What Kampong is built from, as a CycloneDX list; and that each part's licence is one that may go into it.
import { execFile } from 'node:child_process';
import { mkdir, writeFile } from 'node:fs/promises';
import { promisify } from 'node:util';

/** Licences under which a part may be handed on within a program of any licence. (SPDX) */
const FREE = new Set([
  '0BSD',
  'Apache-2.0',
  'BlueOak-1.0.0',
  'BSD-2-Clause',
  'BSD-3-Clause',
  'CC0-1.0',
  'ISC',
  'MIT',
  'OFL-1.1',
  'Unlicense',
  'Zlib',
]);

export interface Part {
  name: string;
  version: string;
  licenses?: { license?: { id?: string; name?: string }; expression?: string }[];
}
interface Parts {
  components: Part[];
}

/** Parts that tell their licence in a file of theirs only, looked at by hand, of that version. */
const LOOKED_AT: Record<string, string> = { 'png-js 1.1.0': 'MIT' };

/** The parts that go into what is served, by npm's own list. (CycloneDX 1.5) */
async function partsOf(): Promise<Parts> {
  const { stdout } = await promisify(execFile)('npm', ['sbom', '--sbom-format', 'cyclonedx', '--omit', 'dev'], {
    maxBuffer: 64 * 1024 * 1024,
  });
  return JSON.parse(stdout) as Parts;
}

/** A sentence for each part whose licence is not told or not free; `MIT OR GPL-2.0` is free by its first. */
export function unfree({ components }: Parts): string[] {
  return components.flatMap(({ name, version, licenses = [] }) => {
    const looked = LOOKED_AT[`${name} ${version}`];
    const told = looked
      ? [looked]
      : licenses.map(({ license, expression }) => expression ?? license?.id ?? license?.name ?? '');
    const free = told.some((text) =>
      text
        .replace(/[()]/g, '')
        .split(' OR ')
        .some((each) => each.split(' AND ').every((one) => FREE.has(one.trim()))),
    );
    return free ? [] : [`${name} ${version}: ${told.join(', ') || 'no licence told'}`];
  });
}

async function main(): Promise<void> {
  const parts = await partsOf();
  const not = unfree(parts);
  await mkdir('dist', { recursive: true });
  await writeFile('dist/parts.cdx.json', JSON.stringify(parts, null, 2));
  for (const sentence of not) console.error(sentence);
  console.log(`${parts.components.length} parts, in dist/parts.cdx.json; ${not.length} of a licence that is not free.`);
  process.exitCode = not.length === 0 ? 0 : 1;
}

if (process.argv[1]?.endsWith('parts.ts')) void main();
