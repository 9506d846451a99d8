import type { Right } from '@api/access';
import { refuse } from '@core/refusals';
import { Refusals, type FileAnswer, type Parts, type SignedIn } from '../room';
import { madeFile } from './write-file';
import type { Table } from './write-table';

const TYPES = {
  csv: 'text/csv; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
} as const;

/** A table as CSV and as XLSX, at `/name.csv` and `/name.xlsx`. */
export function tableFiles(
  name: string,
  needs: Right | undefined,
  read: (asked: { parts: Parts; who: SignedIn; query: unknown }) => Promise<Table>,
): FileAnswer[] {
  return (['csv', 'xlsx'] as const).map((format) => ({
    path: `/${name}.${format}`,
    ...(needs ? { needs } : {}),
    what: 'This list',
    async read({ ctx, parts, who, signal }) {
      if (!who!.rights.includes('export'))
        throw new Refusals(403, [refuse('no-right', '', { act: 'take files along' })]);
      const table = await read({ parts, who: who!, query: { ...ctx.query } });
      const content = await madeFile({ kind: format, name, table }, { person: who!.personId, signal });
      return { name: `${name} ${who!.workDate}.${format}`, type: TYPES[format], content, how: 'attachment' };
    },
  }));
}
