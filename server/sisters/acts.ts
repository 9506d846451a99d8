import { decideAside, decideHalf, decidePairing, decideReturn, decideSame } from '@core/sisters';
import { dec } from '@core/kernel';
import * as contract from '@api/sisters';
import { defineAct, orNotFound, recordIn, type Doer, type Touched } from '../acts';
import type { Tx } from '../db';
import { elsewhereActs } from './elsewhere';
import { loadOfKind } from './ground';
import { holdAtSister, letHoldGo } from './hold';
import { joinLines } from './joined';
import { documentForOffer } from './same-as';
import { halfOf, sisterCompany, SOURCE_KIND, sourceLines, type OfferHead } from './sources';
import { takeOffer } from './take';
import { pairTaxes } from './taxes';
import { pairedItems } from './pairs';
import { sisterItemTable } from './tables';

/** The sister is told in her own trail what became of her document here. */
const toldTo = async (
  tx: Tx,
  act: string,
  { fromId, kind, sourceId, number, elsewhere }: OfferHead,
  doer: Doer,
  reason: string,
) => {
  if (elsewhere) return;
  await recordIn(tx, act, { number, reason }, [{ kind: SOURCE_KIND[kind], id: sourceId, number }], {
    ...doer,
    companyId: fromId,
  });
};

const returnOffer = defineAct(contract.returnOffer, {
  right: 'orders',
  rightFor: ({ kind }) => contract.OFFER_RIGHT[kind],
  says: 'return what sister companies offer',
  done: 'returned to a sister company',
  load: (sql, input, doer) => loadOfKind(sql, doer.companyId, input.id, input.kind),
  decide: ({ offer }, input) => decideReturn(offer, input),
  preview: (_effects, { offer }) => ({ sister: offer.sister }),
  async write(tx, { reason }, { head }, doer) {
    await tx.run("UPDATE offer SET state = 'returned', reason = ?, until_day = NULL WHERE id = ?", [reason, head.id]);
    await toldTo(tx, contract.returnOffer.name, head, doer, reason);
    return { made: [], touched: [] };
  },
});

const setAsideOffer = defineAct(contract.setAsideOffer, {
  right: 'orders',
  rightFor: ({ kind }) => contract.OFFER_RIGHT[kind],
  says: 'set aside what sister companies offer',
  done: 'set aside',
  load: (sql, input, doer) => loadOfKind(sql, doer.companyId, input.id, input.kind),
  decide: ({ offer }, input, { workDate }) => decideAside(offer, input, workDate),
  preview: ({ untilDay }) => ({ untilDay }),
  async write(tx, { reason, untilDay }, { head }) {
    await tx.run("UPDATE offer SET state = 'aside', reason = ?, until_day = ? WHERE id = ?", [
      reason,
      untilDay,
      head.id,
    ]);
    return { made: [], touched: [] };
  },
});

/** A sister's document and one of ours are the same thing: joined, and nothing is made. // X3 */
const sameAsOffer = defineAct(contract.sameAsOffer, {
  right: 'orders',
  rightFor: ({ kind }) => contract.OFFER_RIGHT[kind],
  says: 'join what sister companies offer with what stands here',
  done: 'joined with a sister company’s',
  async load(sql, input, doer) {
    const { head, offer } = await loadOfKind(sql, doer.companyId, input.id, input.kind);
    const selling = head.kind === 'order';
    if (!selling && head.kind !== 'purchase') orNotFound(undefined, 'This document');
    const theirs = await sourceLines(sql, doer.companyId, { ...head, sourceIds: [head.sourceId] });
    const half = await halfOf(sql, doer.companyId, head.fromId);
    return { head, offer, theirs, ...(await documentForOffer(sql, doer.companyId, selling, input.documentId, half)) };
  },
  decide: ({ offer, theirs, document, ours }, input) =>
    decideSame(
      {
        offer,
        theirs: theirs.map(({ id, ours: item, quantity, factor }) => ({
          lineId: id,
          itemId: item?.id ?? null,
          quantity: dec(quantity).times(factor).toFixed(),
          factor,
        })),
        document,
        ours,
      },
      input,
    ),
  preview: (_effects, { document }) => ({ document: document.number }),
  async write(tx, { pairs }, { head, document }, doer) {
    const selling = head.kind === 'order';
    const { companyId } = doer;
    await joinLines(tx, head, pairs, companyId);
    await tx.run(
      "UPDATE offer SET state = 'folded', taken_id = ?, taken_revision = revision, taken_gone = gone WHERE id = ?",
      [document.id, head.id],
    );
    // What ours was offered as to the sister is known to her by the same word.
    await tx.run(
      `UPDATE offer SET state = 'folded', taken_id = ?, taken_revision = revision, taken_gone = gone
        WHERE from_id = ? AND company_id = ? AND kind = ? AND source_id = ?`,
      [head.elsewhere ? null : head.sourceId, companyId, head.fromId, selling ? 'purchase' : 'order', document.id],
    );
    await toldTo(tx, contract.sameAsOffer.name, head, doer, '');
    const touched: Touched[] = [{ kind: selling ? 'SO' : 'PO', id: document.id, number: document.number }];
    return { made: [], touched };
  },
});

const keepSister = defineAct(contract.keepSister, {
  right: 'lists',
  says: 'say who sister companies are',
  done: 'pair kept',
  async load(sql, { sisterId, customerId, vendorId }, { companyId }) {
    const sister = await sisterCompany(sql, sisterId);
    const known = async (table: 'customer' | 'vendor', id: number | null) =>
      id === null ||
      (await sql.rows(`SELECT id FROM ${table} WHERE company_id = ? AND id = ?`, [companyId, id])).length === 1;
    const [other] = await sql.rows<{ name: string; customer: number }>(
      `SELECT c.name, s.customer_id <=> ? AS customer FROM sister s JOIN company c ON c.id = s.sister_id
        WHERE s.company_id = ? AND s.sister_id <> ? AND (s.customer_id = ? OR s.vendor_id = ?)`,
      [customerId ?? 0, companyId, sisterId, customerId ?? 0, vendorId ?? 0],
    );
    return {
      sister,
      own: sisterId === companyId,
      customer: await known('customer', customerId),
      vendor: await known('vendor', vendorId),
      other: other ? { name: other.name, at: other.customer ? ('customerId' as const) : ('vendorId' as const) } : null,
    };
  },
  decide: (ground, input) => decideHalf(ground, input),
  preview: (_effects, { sister }) => ({ sister: sister.name }),
  async write(tx, { perCent }, _ground, { companyId }, input) {
    await tx.run(
      `INSERT INTO sister (company_id, sister_id, customer_id, vendor_id, transfer, per_cent, takes_fitting, transit_days, hold_days)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)
       ON DUPLICATE KEY UPDATE customer_id = VALUES(customer_id), vendor_id = VALUES(vendor_id), transfer = VALUES(transfer),
         per_cent = VALUES(per_cent), takes_fitting = VALUES(takes_fitting),
         transit_days = VALUES(transit_days), hold_days = VALUES(hold_days)`,
      [
        ...[companyId, input.sisterId, input.customerId, input.vendorId, input.transfer, perCent],
        ...[input.takesFitting, input.transitDays, input.holdDays],
      ],
    );
    return { made: [], touched: [] };
  },
});

const pairItems = defineAct(contract.pairItems, {
  right: 'lists',
  says: 'pair items with those of sister companies',
  done: 'items paired',
  async load(sql, { sisterId, pairs }, { companyId }) {
    const sister = await sisterCompany(sql, sisterId);
    const numbered = async (company: number, ids: readonly number[]) =>
      new Map(
        (
          await sql.rows<{ id: number; number: string }>(
            'SELECT id, number FROM item WHERE company_id = ? AND id IN (?)',
            [company, [...ids]],
          )
        ).map(({ id, number }) => [id, { number }]),
      );
    const paired = (await pairedItems(sql, companyId, sisterId)).map(({ ours, theirs, factor }) => ({
      itemId: ours.id,
      theirItemId: theirs.id,
      factor,
    }));
    return {
      sister: sister.name,
      paired,
      ours: await numbered(companyId, [...pairs.map(({ itemId }) => itemId), ...paired.map(({ itemId }) => itemId)]),
      theirs: await numbered(sisterId, [
        ...pairs.map(({ theirItemId }) => theirItemId),
        ...paired.map(({ theirItemId }) => theirItemId),
      ]),
    };
  },
  decide: (ground, input) => decidePairing(ground, input),
  preview: ({ pairs, removed }) => ({ paired: pairs.length, removed: removed.length }),
  async write(tx, { pairs, removed }, _ground, { companyId }, { sisterId }) {
    const low = companyId < sisterId;
    const [lowId, highId] = low ? [companyId, sisterId] : [sisterId, companyId];
    await tx.run(
      `DELETE FROM sister_item WHERE low_id = ? AND high_id = ? AND ${low ? 'low_item_id' : 'high_item_id'} IN (?)`,
      [lowId, highId, [...removed, ...pairs.map(({ itemId }) => itemId)]],
    );
    if (pairs.length > 0) {
      await tx.insertPlain(
        sisterItemTable,
        pairs.map(({ itemId, theirItemId, factor }) => ({
          lowId,
          highId,
          lowItemId: low ? itemId : theirItemId,
          highItemId: low ? theirItemId : itemId,
          // Kept as units of the higher company in one of the lower's.
          factor: low ? dec(1).div(factor).toFixed(6) : dec(factor).toFixed(6),
        })),
      );
    }
    return { made: [], touched: [] };
  },
});

export const sisterActs = [
  takeOffer,
  returnOffer,
  setAsideOffer,
  sameAsOffer,
  keepSister,
  pairItems,
  pairTaxes,
  holdAtSister,
  letHoldGo,
  ...elsewhereActs,
];
