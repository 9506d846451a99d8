import type { Right } from '@api/access';
import type { FileAnswer, Parts, SignedIn } from '../room';
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
      const table = await read({ parts, who: who!, query: { ...ctx.query } });
      const content = await madeFile({ kind: format, name, table }, { person: who!.personId, signal });
      return { name: `${name} ${who!.workDate}.${format}`, type: TYPES[format], content, how: 'attachment' };
    },
  }));
}
