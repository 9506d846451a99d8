import { readWholeLimit, type AgreementEffects, type Rebate, type Reminder, type TypedTerm } from '@core/agreements';
import { dec, sum } from '@core/kernel';
import type { Doer } from '../../acts';
import { setStatement, type Bound, type Statement, type Tx } from '../../db';
import { NOTHING_LEFT } from '../releasing/counters';
import {
  agreementBreakTable,
  agreementLineTable,
  agreementRebateTierTable,
  agreementReminderTable,
  agreementTable,
} from '../tables';

/** The head's columns as the terms give them. */
function headColumns(effects: AgreementEffects) {
  const whole = readWholeLimit(effects.wholeLimit)!;
  return {
    side: effects.side,
    basis: effects.basis,
    customerId: effects.customerId,
    vendorId: effects.vendorId,
    salesOrganisationId: effects.salesOrganisationId,
    title: effects.title.trim(),
    probabilityPercent: effects.probabilityPercent,
    restPlan: effects.restPlan,
    freeGoodsCount: effects.freeGoodsCount ?? false,
    priority: effects.priority,
    notes: effects.notes,
    currency: effects.currency,
    firstDay: effects.firstDay,
    lastDay: effects.lastDay,
    signedOn: effects.signedOn,
    limitPolicy: effects.limitPolicy,
    tolerancePercent: effects.tolerancePercent,
    wholeLimit: whole.limit,
    wholeUnit: whole.unit,
    rebateKind: effects.rebate.kind,
    rebateBy: effects.rebate.by,
    releaseAheadDays: effects.releaseAhead === '' ? null : Number(effects.releaseAhead),
    committedValue: sum(effects.lines.map((line) => dec(line.value))).toFixed(),
  };
}

function lineColumns(line: AgreementEffects['lines'][number]) {
  return {
    itemId: line.itemId,
    itemGroupId: line.groupId,
    committed: line.committed,
    committedValue: line.value,
    priceKind: line.priceKind,
    unitPrice: line.priceKind === 'fixed' ? line.priceValue : null,
    discountPercent: line.priceKind === 'discount' ? line.priceValue : null,
    leastRelease: line.leastRelease,
    releaseMultiple: line.releaseMultiple,
    notes: line.notes.trim(),
  };
}

/** Writes the head and lines of a new (`current` null) or draft agreement; its id. */
export async function writeTerms(
  tx: Tx,
  effects: AgreementEffects,
  current: { id: number } | null,
  number: string,
  doer: Doer,
): Promise<number> {
  const { companyId } = doer;
  const head = headColumns(effects);
  let id: number;
  if (current) {
    id = current.id;
    await tx.batch(termsStatements(companyId, id, head));
    // Only a draft gets here: nothing points at its lines yet.
    await tx.run('DELETE FROM agreement_line WHERE company_id = ? AND agreement_id = ?', [companyId, id]);
  } else {
    [id] = (await tx.insert(agreementTable, [{ companyId, number, ...head }])) as [number];
  }
  await insertLines(tx, companyId, id, effects.lines, 1);
  await writeRebate(tx, companyId, id, effects.rebate);
  await writeReminders(tx, companyId, id, effects.reminders);
  return id;
}

/** Writes revised terms: lines that stay keep their ids and counters. // A15 */
export async function writeRevised(
  tx: Tx,
  companyId: number,
  id: number,
  effects: AgreementEffects,
  lineIds: readonly (number | null)[],
  removedLineIds: readonly number[],
): Promise<void> {
  await tx.batch(termsStatements(companyId, id, headColumns(effects)));
  if (removedLineIds.length > 0) {
    await tx.run('DELETE FROM agreement_line WHERE company_id = ? AND id IN (?)', [companyId, removedLineIds]);
  }
  for (const [index, line] of effects.lines.entries()) {
    const lineId = lineIds[index];
    if (!lineId) continue;
    await tx.batch([setStatement(agreementLineTable, lineColumns(line), companyId, lineId)]);
    await tx.run('DELETE FROM agreement_break WHERE company_id = ? AND agreement_line_id = ?', [companyId, lineId]);
    await insertBreaks(tx, companyId, [line], [lineId]);
  }
  const [last] = await tx.rows<{ lineNo: number | null }>(
    'SELECT MAX(line_no) AS line_no FROM agreement_line WHERE company_id = ? AND agreement_id = ?',
    [companyId, id],
  );
  const added = effects.lines.filter((_line, index) => !lineIds[index]);
  await insertLines(tx, companyId, id, added, (last?.lineNo ?? 0) + 1);
  await tx.run(`UPDATE agreement a SET a.used_up = ${NOTHING_LEFT} WHERE a.company_id = ? AND a.id = ?`, [
    companyId,
    id,
  ]);
  await writeRebate(tx, companyId, id, effects.rebate);
  await writeReminders(tx, companyId, id, effects.reminders);
}

/** Sets the terms of an agreement and raises its version. */
function termsStatements(companyId: number, id: number, columns: Record<string, Bound>): Statement[] {
  return [
    setStatement(agreementTable, columns, companyId, id),
    { sql: 'UPDATE agreement SET version = version + 1 WHERE company_id = ? AND id = ?', values: [companyId, id] },
  ];
}

async function insertLines(
  tx: Tx,
  companyId: number,
  agreementId: number,
  lines: AgreementEffects['lines'],
  firstLineNo: number,
): Promise<void> {
  if (lines.length === 0) return;
  const ids = await tx.insert(
    agreementLineTable,
    lines.map((line, index) => ({
      companyId,
      agreementId,
      lineNo: firstLineNo + index,
      ...lineColumns(line),
    })),
  );
  await insertBreaks(tx, companyId, lines, ids);
}

function insertBreaks(
  tx: Tx,
  companyId: number,
  lines: readonly TypedTerm[],
  lineIds: readonly number[],
): Promise<void> {
  return tx.insertPlain(
    agreementBreakTable,
    lines.flatMap((line, index) =>
      line.breaks.map((each) => ({
        companyId,
        agreementLineId: lineIds[index]!,
        fromQuantity: each.from,
        unitPrice: line.priceKind === 'fixed' ? each.value : null,
        discountPercent: line.priceKind === 'discount' ? each.value : null,
      })),
    ),
  );
}

async function writeRebate(tx: Tx, companyId: number, agreementId: number, { tiers }: Rebate): Promise<void> {
  await tx.run('DELETE FROM agreement_rebate_tier WHERE company_id = ? AND agreement_id = ?', [companyId, agreementId]);
  await tx.insertPlain(
    agreementRebateTierTable,
    tiers.map((tier) => ({
      companyId,
      agreementId,
      fromAmount: tier.from,
      rate: tier.rate,
    })),
  );
}

/** Reminders that stay keep whether they fired: each fires once. // A9 */
async function writeReminders(
  tx: Tx,
  companyId: number,
  agreementId: number,
  reminders: readonly Reminder[],
): Promise<void> {
  const kept = await tx.rows<{ id: number; kind: string; atValue: string }>(
    'SELECT id, kind, at_value FROM agreement_reminder WHERE company_id = ? AND agreement_id = ?',
    [companyId, agreementId],
  );
  const same = (row: { kind: string; atValue: string }, reminder: Reminder) =>
    row.kind === reminder.kind && dec(row.atValue).eq(reminder.at);
  const gone = kept.filter((row) => !reminders.some((reminder) => same(row, reminder)));
  if (gone.length > 0) {
    const ids = gone.map((row) => row.id);
    await tx.run('DELETE FROM agreement_reminder WHERE company_id = ? AND id IN (?)', [companyId, ids]);
  }
  const added = reminders.filter((reminder) => !kept.some((row) => same(row, reminder)));
  await tx.insertPlain(
    agreementReminderTable,
    added.map(({ kind, at }) => ({ companyId, agreementId, kind, atValue: at })),
  );
}
