import type { AgreementEffects, Rebate, Reminder, TypedTerm } from '@core/agreements';
import { dec, sum } from '@core/kernel';
import type { Doer } from '../acts';
import type { Bound, Tx } from '../db/database';
import { NOTHING_LEFT } from './store';

/** The head's columns as the terms give them. */
function headColumns(effects: AgreementEffects) {
  return {
    side: effects.side,
    basis: effects.basis,
    customer_id: effects.customerId,
    vendor_id: effects.vendorId,
    sales_organisation_id: effects.salesOrganisationId,
    title: effects.title.trim(),
    probability_percent: effects.probabilityPercent,
    priority: effects.priority,
    notes: effects.notes,
    currency: effects.currency,
    first_day: effects.firstDay,
    last_day: effects.lastDay,
    signed_on: effects.signedOn,
    limit_policy: effects.limitPolicy,
    tolerance_percent: effects.tolerancePercent,
    rebate_kind: effects.rebate.kind,
    rebate_by: effects.rebate.by,
    release_ahead_days: effects.releaseAhead === '' ? null : Number(effects.releaseAhead),
    committed_value: sum(effects.lines.map((line) => dec(line.value))).toFixed(),
  };
}

function lineColumns(line: AgreementEffects['lines'][number]) {
  return {
    item_id: line.itemId,
    item_group_id: line.groupId,
    committed: line.committed,
    committed_value: line.value,
    price_kind: line.priceKind,
    unit_price: line.priceKind === 'fixed' ? line.priceValue : null,
    discount_percent: line.priceKind === 'discount' ? line.priceValue : null,
    least_release: line.leastRelease,
    release_multiple: line.releaseMultiple,
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
    await updateRow(tx, 'agreement', head, companyId, id);
    // Only a draft gets here: nothing points at its lines yet.
    await tx.run('DELETE FROM agreement_line WHERE company_id = ? AND agreement_id = ?', [companyId, id]);
  } else {
    [id] = (await tx.insert('agreement', [{ company_id: companyId, number, ...head }])) as [number];
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
  await updateRow(tx, 'agreement', headColumns(effects), companyId, id);
  if (removedLineIds.length > 0) {
    await tx.run('DELETE FROM agreement_line WHERE company_id = ? AND id IN (?)', [companyId, removedLineIds]);
  }
  for (const [index, line] of effects.lines.entries()) {
    const lineId = lineIds[index];
    if (!lineId) continue;
    await updateRow(tx, 'agreement_line', lineColumns(line), companyId, lineId);
    await tx.run('DELETE FROM agreement_break WHERE company_id = ? AND agreement_line_id = ?', [companyId, lineId]);
    await insertBreaks(tx, companyId, [line], [lineId]);
  }
  const [last] = await tx.rows<{ line_no: number | null }>(
    'SELECT MAX(line_no) AS line_no FROM agreement_line WHERE company_id = ? AND agreement_id = ?',
    [companyId, id],
  );
  const added = effects.lines.filter((_line, index) => !lineIds[index]);
  await insertLines(tx, companyId, id, added, (last?.line_no ?? 0) + 1);
  await tx.run(`UPDATE agreement a SET a.used_up = ${NOTHING_LEFT} WHERE a.company_id = ? AND a.id = ?`, [
    companyId,
    id,
  ]);
  await writeRebate(tx, companyId, id, effects.rebate);
  await writeReminders(tx, companyId, id, effects.reminders);
}

/** Sets columns of one row; an agreement's version goes up with them. */
function updateRow(
  tx: Tx,
  table: 'agreement' | 'agreement_line',
  columns: Record<string, Bound>,
  companyId: number,
  id: number,
) {
  const sets = Object.keys(columns).map((column) => `${column} = ?`);
  if (table === 'agreement') sets.push('version = version + 1');
  return tx.run(`UPDATE ${table} SET ${sets.join(', ')} WHERE company_id = ? AND id = ?`, [
    ...Object.values(columns),
    companyId,
    id,
  ]);
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
    'agreement_line',
    lines.map((line, index) => ({
      company_id: companyId,
      agreement_id: agreementId,
      line_no: firstLineNo + index,
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
    'agreement_break',
    lines.flatMap((line, index) =>
      line.breaks.map((each) => ({
        company_id: companyId,
        agreement_line_id: lineIds[index]!,
        from_quantity: each.from,
        unit_price: line.priceKind === 'fixed' ? each.value : null,
        discount_percent: line.priceKind === 'discount' ? each.value : null,
      })),
    ),
  );
}

async function writeRebate(tx: Tx, companyId: number, agreementId: number, { tiers }: Rebate): Promise<void> {
  await tx.run('DELETE FROM agreement_rebate_tier WHERE company_id = ? AND agreement_id = ?', [companyId, agreementId]);
  await tx.insertPlain(
    'agreement_rebate_tier',
    tiers.map((tier) => ({
      company_id: companyId,
      agreement_id: agreementId,
      from_amount: tier.from,
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
  const kept = await tx.rows<{ id: number; kind: string; at_value: string }>(
    'SELECT id, kind, at_value FROM agreement_reminder WHERE company_id = ? AND agreement_id = ?',
    [companyId, agreementId],
  );
  const same = (row: { kind: string; at_value: string }, reminder: Reminder) =>
    row.kind === reminder.kind && dec(row.at_value).eq(reminder.at);
  const gone = kept.filter((row) => !reminders.some((reminder) => same(row, reminder)));
  if (gone.length > 0) {
    const ids = gone.map((row) => row.id);
    await tx.run('DELETE FROM agreement_reminder WHERE company_id = ? AND id IN (?)', [companyId, ids]);
  }
  const added = reminders.filter((reminder) => !kept.some((row) => same(row, reminder)));
  await tx.insertPlain(
    'agreement_reminder',
    added.map(({ kind, at }) => ({ company_id: companyId, agreement_id: agreementId, kind, at_value: at })),
  );
}
