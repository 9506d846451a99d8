import type { BroughtIn } from '@core/lists';
import type { Right } from '@api/access';
import type { Doer } from '../../acts';
import type { Database, Sql, Columns } from '../../db';
import { bringInPartTable, bringInTable, type BringIn } from '../tables';
import type { FileRead } from './read';

/** Lines that are looked at, and taken, at once: as many as one act of keeping takes. */
export const PART = 500;

/** After so long without a word whoever worked at a file is gone. */
const LOST_SECONDS = 30;

export interface Problem {
  line: number;
  /** The column, as the list heads it. */
  column: string;
  /** What stands there. */
  typed: string;
  sentence: string;
  /** Odd, and no hindrance. */
  word: boolean;
}

/** Keeps a file that was read, to be looked at; its id. */
export function keepFile(
  database: Database,
  { companyId, personId, workDate }: Pick<Doer, 'companyId' | 'personId' | 'workDate'>,
  fileName: string,
  { list, leftOut, lines }: FileRead,
): Promise<number> {
  return database.transaction(async (tx) => {
    const [id] = await tx.insert(bringInTable, [
      {
        companyId,
        personId,
        list: list.name,
        fileName: fileName.slice(0, 200),
        workDate,
        leftOut: JSON.stringify(leftOut),
        rowCount: lines.length,
      },
    ]);
    const parts = Array.from({ length: Math.ceil(lines.length / PART) }, (_, no) =>
      lines.slice(no * PART, (no + 1) * PART),
    );
    await tx.insertPlain(
      bringInPartTable,
      parts.map((part, no) => ({ companyId, bringInId: id!, no, content: JSON.stringify(part) })),
    );
    return id!;
  });
}

/** The next file that is to be looked at or taken and that nobody works at, claimed: two servers never both have it. */
export async function claimed(database: Database): Promise<Claimed | null> {
  const rows = await database.rows<Columns<BringIn, 'companyId id personId list state goodOnly workDate'>>(
    `SELECT company_id, id, person_id, list, state, good_only, work_date FROM bring_in
      WHERE state IN ('looking', 'taking') AND (beat_at IS NULL OR beat_at < NOW(3) - INTERVAL ? SECOND) ORDER BY id LIMIT 5`,
    [LOST_SECONDS],
  );
  for (const row of rows) {
    const taken = await database.run(
      `UPDATE bring_in SET beat_at = NOW(3) WHERE company_id = ? AND id = ? AND state = ?
          AND (beat_at IS NULL OR beat_at < NOW(3) - INTERVAL ? SECOND)`,
      [row.companyId, row.id, row.state, LOST_SECONDS],
    );
    if (taken > 0) return row;
  }
  return null;
}
export type Claimed = Columns<BringIn, 'companyId id personId list state goodOnly workDate'>;

/** Who brought it in, with the rights they have by now; none where they work here no more. */
export async function doerOf(sql: Sql, { companyId, personId, workDate }: Claimed): Promise<Doer> {
  const [row] = await sql.rows<{ rights: string }>(
    `SELECT r.rights FROM person_role pr JOIN role r ON r.company_id = pr.company_id AND r.id = pr.role_id
       JOIN person p ON p.id = pr.person_id AND p.active = TRUE
      WHERE pr.company_id = ? AND pr.person_id = ?`,
    [companyId, personId],
  );
  return {
    companyId,
    personId,
    rights: row ? (JSON.parse(row.rights) as Right[]) : [],
    workDate,
    origin: 'file',
  };
}

export async function linesOf(sql: Sql, { companyId, id }: Claimed, no: number): Promise<BroughtIn[]> {
  const [row] = await sql.rows<{ content: string }>(
    'SELECT content FROM bring_in_part WHERE company_id = ? AND bring_in_id = ? AND no = ?',
    [companyId, id, no],
  );
  return JSON.parse(row!.content) as BroughtIn[];
}
