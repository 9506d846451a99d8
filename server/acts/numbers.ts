import { assert, documentNumber, type DocumentKind } from '@core/kernel';
import { TextPiece, type Statement, type Tx } from '../db';

interface NumberRow {
  kind: DocumentKind;
  nextSerial: number;
  prefix: string;
}

type Wanted = Partial<Record<DocumentKind, number>>;

function kindsOf(wanted: Wanted): DocumentKind[] {
  return (Object.keys(wanted) as DocumentKind[]).filter((kind) => wanted[kind]! > 0).sort();
}

/**
 * The next numbers of several kinds, without gaps: taken in the act's own transaction, so a rolled back act
 * gives them back; a kind never numbered before begins at 1. The rows stay locked until the commit: call it after
 * everything that may wait or refuse.
 * `before` are statements on rows already locked, sent in the same trip.
 */
export async function takeNumbers(
  tx: Tx,
  companyId: number,
  wanted: Wanted,
  before: readonly Statement[] = [],
): Promise<(kind: DocumentKind) => string> {
  const kinds = kindsOf(wanted);
  const next = new Map<DocumentKind, { serial: number; prefix: string }>();
  const statements = [...before];
  if (kinds.length > 0) {
    statements.push({
      sql: `INSERT INTO number_series (company_id, kind, next_serial, prefix) VALUES ${kinds.map(() => '(?,?,?,?)').join(',')}
         ON DUPLICATE KEY UPDATE next_serial = next_serial + VALUES(next_serial) - 1 RETURNING kind, next_serial, prefix`,
      values: kinds.flatMap((kind) => [companyId, kind, wanted[kind]! + 1, `${kind}-`]),
      rows: true,
    });
  }
  const answers = await tx.batch(statements);
  for (const row of kinds.length > 0 ? (answers.at(-1) as NumberRow[]) : []) {
    next.set(row.kind, { serial: row.nextSerial - wanted[row.kind]!, prefix: row.prefix });
  }
  return (kind) => {
    const series = next.get(kind);
    assert(series !== undefined, `no ${kind} number was asked for`);
    series.serial += 1;
    return documentNumber(kind, series.serial - 1, series.prefix);
  };
}

/**
 * The same for an act's last trip, in which nobody waits for the numbers: the statements that take them, and each number
 * as the piece that gives it to the statements after.
 */
export function numbersAtLast(
  companyId: number,
  wanted: Wanted,
): { statements: Statement[]; number: (kind: DocumentKind) => TextPiece } {
  const kinds = kindsOf(wanted);
  const taken = new Map(kinds.map((kind) => [kind, 0]));
  return {
    statements: kinds.length > 0 ? [movedOn(companyId, kinds, wanted), named(kinds, wanted)] : [],
    number(kind) {
      const at = taken.get(kind);
      assert(at !== undefined && at < wanted[kind]!, `no ${kind} number was asked for`);
      taken.set(kind, at + 1);
      return new TextPiece(`@${kind}_${at}`);
    },
  };
}

/** Moves the series of the kinds on by what is wanted of each; the first serial of each, and what stands before it, are left in variables. */
function movedOn(companyId: number, kinds: readonly DocumentKind[], wanted: Wanted): Statement {
  const first = kinds.map((kind) => `WHEN '${kind}' THEN (@first_${kind} := next_serial)`);
  const prefix = kinds.map((kind) => `WHEN '${kind}' THEN (@prefix_${kind} := prefix)`);
  return {
    sql: `INSERT INTO number_series (company_id, kind, next_serial, prefix)
          VALUES ${kinds.map((kind) => `(?, '${kind}', (@first_${kind} := 1) + ?, (@prefix_${kind} := '${kind}-'))`).join(', ')}
              ON DUPLICATE KEY UPDATE next_serial = CASE kind ${first.join(' ')} END + VALUES(next_serial) - 1,
                prefix = CASE kind ${prefix.join(' ')} END`,
    values: kinds.flatMap((kind) => [companyId, wanted[kind]!]),
  };
}

/** Each number in a variable, made of its serial as `documentNumber` makes it. */
function named(kinds: readonly DocumentKind[], wanted: Wanted): Statement {
  const numbers = kinds.flatMap((kind) =>
    Array.from({ length: wanted[kind]! }, (_, at) => {
      const serial = `@first_${kind} + ${at}`;
      return `@${kind}_${at} = CONCAT(@prefix_${kind}, LPAD(${serial}, GREATEST(4, CHAR_LENGTH(${serial})), '0'))`;
    }),
  );
  return { sql: `SET ${numbers.join(', ')}`, values: [] };
}
