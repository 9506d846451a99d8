import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join, resolve } from 'node:path';
import type { Content } from 'pdfmake/interfaces';

/** The folder of the font that has what the built-in one lacks: it ships with Kampong, from where it runs. */
const FOLDER = dirname(createRequire(resolve('package.json')).resolve('@fontsource/source-sans-3/package.json'));

/** Everything else Windows-1252 has besides Latin-1: that is what the font every reader of PDF has can show. */
const BEYOND_LATIN_1 = '€‚ƒ„…†‡ˆ‰Š‹ŒŽ‘’“”•–—˜™š›œžŸ';

const built = (char: string) => /[\n\t\u0020-\u007e\u00a0-\u00ff]/.test(char) || BEYOND_LATIN_1.includes(char);

/** Parts of the font by name, with the characters each has: ranges of code points. */
const PARTS: readonly (readonly [name: string, ranges: readonly (readonly [number, number])[]])[] = Object.entries(
  JSON.parse(readFileSync(join(FOLDER, 'unicode.json'), 'utf8')) as Record<string, string>,
).map(([name, ranges]) => [
  name,
  ranges.split(',').map((range) => {
    const [from, to] = range.replace('U+', '').split('-');
    return [Number.parseInt(from!, 16), Number.parseInt(to ?? from!, 16)] as const;
  }),
]);

/** The fonts of those parts, as pdfmake wants them: the bold of each is its own. */
export const FALLBACK_FONTS = Object.fromEntries(
  PARTS.map(([name]) => {
    const file = (weight: number, style: string) =>
      join(FOLDER, 'files', `source-sans-3-${name}-${weight}-${style}.woff`);
    return [
      name,
      {
        normal: file(400, 'normal'),
        bold: file(700, 'normal'),
        italics: file(400, 'italic'),
        bolditalics: file(700, 'italic'),
      },
    ];
  }),
);

/** True for the files of those fonts. */
export const isFontFile = (path: string) => path.startsWith(join(FOLDER, 'files'));

/** What stands for a character that no font of ours has. */
const NOT_THERE = '\ufffd';

/** The part that has a character; null where the built-in font has it, `''` where none has. */
function partOf(char: string): string | null {
  if (built(char)) return null;
  const point = char.codePointAt(0)!;
  return PARTS.find(([, ranges]) => ranges.some(([from, to]) => point >= from && point <= to))?.[0] ?? '';
}

/** A minus looks like the dash the built-in font has: figures below zero stand in one line with the others. */
const asBuilt = (text: string) => text.replaceAll('−', '–');

/** A text in runs of one font each; as it is where the built-in font has all of it. O(characters). */
function runsOf(written: string): string | { text: string; font?: string }[] {
  const text = asBuilt(written);
  const runs: { text: string; font?: string }[] = [];
  for (const char of text) {
    const part = partOf(char);
    const [font, shown] = part === '' ? (['latin', NOT_THERE] as const) : ([part ?? undefined, char] as const);
    const last = runs.at(-1);
    if (last && last.font === font) last.text += shown;
    else runs.push(font === undefined ? { text: shown } : { text: shown, font });
  }
  return runs.every(({ font }) => font === undefined) ? text : runs;
}

/** Content whose every text is in fonts that have its characters: the built-in one is left where it lacks them. */
export function readable<C extends Content>(content: C): C {
  if (typeof content === 'string') {
    const runs = runsOf(content);
    return (typeof runs === 'string' ? runs : { text: runs }) as C;
  }
  if (Array.isArray(content)) return content.map((each: Content) => readable(each)) as unknown as C;
  if (typeof content !== 'object' || content === null) return content;
  const node = { ...(content as unknown as Record<string, unknown>) };
  for (const inner of ['stack', 'columns', 'ul', 'ol']) {
    if (node[inner] !== undefined) node[inner] = readable(node[inner] as Content);
  }
  if (typeof node['text'] === 'string') node['text'] = runsOf(node['text']);
  else if (node['text'] !== undefined) node['text'] = readable(node['text'] as Content);
  if (node['table'] !== undefined) {
    const table = node['table'] as { body: Content[][] };
    node['table'] = { ...table, body: table.body.map((row) => row.map((cell) => readable(cell))) };
  }
  return node as unknown as C;
}
