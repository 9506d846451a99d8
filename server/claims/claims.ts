import {
  decideClaim,
  decideClaimBack,
  decideClaimLost,
  decideClaimPaid,
  decideClaimSettled,
  type ClaimNow,
  type OwedToVendor,
} from '@core/claims';
import { dec, isDay, priceText } from '@core/kernel';
import { claimJournal } from '@core/ledger';
import * as contract from '@api/claims';
import { defineAct, orNotFound, takeNumbers, type Doer, type Touched } from '../acts';
import { ownCurrency } from '../catalogue';
import type { Sql, Tx } from '../db';
import { postJournals } from '../ledger';
import { claimMoveTable, claimTable } from './tables';

type Claim = ClaimNow & { id: number; version: number };

async function loadClaim(sql: Sql, companyId: number, id: number): Promise<Claim> {
  const [row] = await sql.rows<Claim>(
    `SELECT id, number, version, vendor_id, amount, settled, withdrawn, ${ownCurrency('company_id')} AS currency FROM claim
      WHERE company_id = ? AND id = ? ${sql.forUpdate}`,
    [companyId, id],
  );
  return orNotFound(row, 'This claim');
}

const touchedOf = ({ id, number, version }: Claim): Touched => ({ kind: 'CL', id, number, version: version + 1 });

/** Claims of a vendor what was accrued up to a day, each line on one claim. // S13 */
export const makeClaim = defineAct(contract.makeClaim, {
  right: 'promotions',
  says: 'claim support of vendors',
  done: 'claimed',
  async load(sql, { vendorId, until }, { companyId }) {
    const [vendor] = await sql.rows<{ name: string; currency: string }>(
      'SELECT name, currency FROM vendor WHERE company_id = ? AND id = ?',
      [companyId, vendorId],
    );
    const accrued = await sql.rows<{ id: number; amount: string }>(
      `SELECT a.id, a.amount FROM support_accrual a
        WHERE a.company_id = ? AND a.claim_id IS NULL AND a.accrued_on <= ?
          AND a.support_line_id IN (SELECT l.id FROM support_line l JOIN support s ON s.company_id = l.company_id AND s.id = l.support_id
            WHERE s.company_id = ? AND s.vendor_id = ?) ORDER BY a.id ${sql.forUpdate}`,
      [companyId, isDay(until) ? until : '1000-01-01', companyId, vendorId],
    );
    return { vendor: vendor ?? null, accrued };
  },
  decide: ({ vendor, accrued }, { until }, { workDate }) => decideClaim(vendor, accrued, until, workDate),
  preview: ({ amount, accrualIds }) => ({ amount, lines: accrualIds.length }),
  async write(tx, { amount, accrualIds }, _ground, { companyId, workDate }, { vendorId, until }) {
    const number = (await takeNumbers(tx, companyId, { CL: 1 }))('CL');
    const [id] = await tx.insert(claimTable, [
      { companyId, number, vendorId, untilDay: until, madeOn: workDate, amount },
    ]);
    await tx.run('UPDATE support_accrual SET claim_id = ? WHERE company_id = ? AND id IN (?)', [
      id!,
      companyId,
      accrualIds,
    ]);
    return { made: [{ kind: 'CL', id: id!, number, version: 1 }], touched: [] };
  },
});

/** Writes what became of a claim, with its journal. // P1 P3 */
async function move(
  tx: Tx,
  doer: Doer,
  claim: Claim,
  how: { kind: 'invoice' | 'paid' | 'lost'; amount: string; openItemId: number | null; reason: string },
): Promise<void> {
  const { companyId, workDate } = doer;
  await tx.insert(claimMoveTable, [{ companyId, claimId: claim.id, movedOn: workDate, ...how }]);
  await tx.run('UPDATE claim SET settled = settled + ?, version = version + 1 WHERE company_id = ? AND id = ?', [
    how.amount,
    companyId,
    claim.id,
  ]);
  const number = await takeNumbers(tx, companyId, { JR: 1 });
  await postJournals(tx, doer, [
    {
      number: number('JR'),
      source: { kind: 'CL', id: claim.id },
      postedOn: workDate,
      entries: claimJournal(how.kind, how.amount),
      currency: null,
      vendorId: claim.vendorId,
    },
  ]);
}

/** A claim is settled against an invoice of its vendor: both by so much. // S13 */
export const settleClaim = defineAct(contract.settleClaim, {
  right: 'vendor-invoices',
  says: 'settle claims on vendors',
  done: 'claim settled',
  expectedVersion: ({ id, version }) => ({ kind: 'CL', id, version }),
  async load(sql, { id, openItemId }, { companyId }) {
    const claim = await loadClaim(sql, companyId, id);
    const [invoice] = await sql.rows<OwedToVendor & { invoiceId: number }>(
      `SELECT v.number, o.vendor_id, o.currency, o.amount - o.settled AS owed, v.id AS invoice_id FROM open_item o
         JOIN vendor_invoice v ON v.company_id = o.company_id AND v.id = o.vendor_invoice_id
        WHERE o.company_id = ? AND o.id = ? AND o.amount > 0 ${sql.forUpdate}`,
      [companyId, openItemId ?? 0],
    );
    return { claim, invoice: invoice ?? null };
  },
  decide: ({ claim, invoice }, { amount }) => decideClaimSettled(claim, invoice, amount),
  posts: (_effects, { workDate }) => workDate,
  preview: ({ amount }) => ({ amount }),
  async write(tx, { amount }, { claim, invoice }, doer, { openItemId }) {
    await tx.run(
      'UPDATE open_item SET settled = settled + ?, own_settled = own_settled + ? WHERE company_id = ? AND id = ?',
      [amount, amount, doer.companyId, openItemId],
    );
    await move(tx, doer, claim, { kind: 'invoice', amount, openItemId, reason: '' });
    return { made: [], touched: [touchedOf(claim), { kind: 'VI', id: invoice!.invoiceId, number: invoice!.number }] };
  },
});

/** A vendor pays a claim into the bank. // S13 */
export const receiveClaim = defineAct(contract.receiveClaim, {
  right: 'payments',
  says: 'take what vendors pay of claims',
  done: 'claim paid',
  expectedVersion: ({ id, version }) => ({ kind: 'CL', id, version }),
  load: (sql, { id }, { companyId }) => loadClaim(sql, companyId, id),
  decide: (claim, { amount }) => decideClaimPaid(claim, amount),
  posts: (_effects, { workDate }) => workDate,
  preview: ({ amount }) => ({ amount }),
  async write(tx, { amount }, claim, doer) {
    await move(tx, doer, claim, { kind: 'paid', amount, openItemId: null, reason: '' });
    return { made: [], touched: [touchedOf(claim)] };
  },
});

/** What is left of a claim is given up, with why. // S13 G7 */
export const loseClaim = defineAct(contract.loseClaim, {
  right: 'promotions',
  says: 'give claims on vendors up',
  done: 'claim given up',
  expectedVersion: ({ id, version }) => ({ kind: 'CL', id, version }),
  load: (sql, { id }, { companyId }) => loadClaim(sql, companyId, id),
  decide: (claim, { reason }) => decideClaimLost(claim, reason),
  second: ({ amount }, { number, currency }) =>
    dec(amount).gt(0)
      ? [{ kind: 'write-off', words: `Give up ${currency} ${priceText(amount, currency)} of ${number}` }]
      : [],
  posts: (_effects, { workDate }) => workDate,
  preview: ({ amount }) => ({ amount }),
  async write(tx, { amount, reason }, claim, doer) {
    await move(tx, doer, claim, { kind: 'lost', amount, openItemId: null, reason });
    return { made: [], touched: [{ ...touchedOf(claim), reason }] };
  },
});

/** A claim nothing was settled of is withdrawn; what is on it can be claimed again. // S13 */
export const withdrawClaim = defineAct(contract.withdrawClaim, {
  right: 'promotions',
  says: 'withdraw claims on vendors',
  done: 'claim withdrawn',
  expectedVersion: ({ id, version }) => ({ kind: 'CL', id, version }),
  load: (sql, { id }, { companyId }) => loadClaim(sql, companyId, id),
  decide: (claim, { reason }) => decideClaimBack(claim, reason),
  preview: () => ({}),
  async write(tx, { reason }, claim, { companyId }) {
    await tx.run(
      'UPDATE claim SET withdrawn = TRUE, reason = ?, version = version + 1 WHERE company_id = ? AND id = ?',
      [reason, companyId, claim.id],
    );
    await tx.run('UPDATE support_accrual SET claim_id = NULL WHERE company_id = ? AND claim_id = ?', [
      companyId,
      claim.id,
    ]);
    return { made: [], touched: [{ ...touchedOf(claim), reason }] };
  },
});
