import { decideAside, decidePairing, decideReturn, decideSame } from '@core/sisters';
import { dec, isDecimalText } from '@core/kernel';
import { decided, refuse, type Refusal } from '@core/refusals';
import * as contract from '@api/sisters';
import { defineAct, orNotFound, recordIn, type Doer, type Touched } from '../acts';
import type { Sql, Tx } from '../db';
import { documentForOffer } from './same-as';
import { halfOf, loadOffer, offerNow, sisterCompany, SOURCE_KIND, sourceLines, type OfferHead } from './sources';
import { takeOffer } from './take';
import { pairedItems } from './pairs';
import { sisterItemTable, sisterLineTable } from './tables';

const KIND_RIGHT = { order: 'orders', purchase: 'purchases', receipt: 'goods', invoice: 'vendor-invoices' } as const;

/** Loads an offer of that kind. */
async function offerOfKind(sql: Sql, { companyId }: Doer, input: { id: number; kind: OfferHead['kind'] }) {
  const head = await loadOffer(sql, companyId, input.id);
  if (head.kind !== input.kind) orNotFound(undefined, 'This offer');
  return { head, offer: offerNow(head) };
}

/** The sister is told in her own trail what became of her document here. */
const toldTo = (tx: Tx, act: string, { fromId, kind, sourceId, number }: OfferHead, doer: Doer, reason: string) =>
  recordIn(tx, act, { number, reason }, [{ kind: SOURCE_KIND[kind], id: sourceId, number }], {
    ...doer,
    companyId: fromId,
  });

const returnOffer = defineAct(contract.returnOffer, {
  right: 'orders',
  rightFor: ({ kind }) => KIND_RIGHT[kind],
  says: 'return what sister companies offer',
  done: 'returned to a sister company',
  load: (sql, input, doer) => offerOfKind(sql, doer, input),
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
  rightFor: ({ kind }) => KIND_RIGHT[kind],
  says: 'set aside what sister companies offer',
  done: 'set aside',
  load: (sql, input, doer) => offerOfKind(sql, doer, input),
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
  rightFor: ({ kind }) => KIND_RIGHT[kind],
  says: 'join what sister companies offer with what stands here',
  done: 'joined with a sister company’s',
  async load(sql, input, doer) {
    const { head, offer } = await offerOfKind(sql, doer, input);
    const selling = head.kind === 'order';
    if (!selling && head.kind !== 'purchase') orNotFound(undefined, 'This document');
    const { fromId, sourceId, kind } = head;
    const theirs = await sourceLines(sql, doer.companyId, { fromId, kind, sourceIds: [sourceId] });
    const half = await halfOf(sql, doer.companyId, fromId);
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
    await tx.insertPlain(
      sisterLineTable,
      pairs.map(({ theirLineId, ourLineId, factor }) =>
        selling
          ? {
              sellerId: companyId,
              salesLineId: ourLineId,
              buyerId: head.fromId,
              purchaseLineId: theirLineId,
              factor: dec(1).div(factor).toFixed(6),
            }
          : { sellerId: head.fromId, salesLineId: theirLineId, buyerId: companyId, purchaseLineId: ourLineId, factor },
      ),
    );
    await tx.run(
      "UPDATE offer SET state = 'folded', taken_id = ?, taken_revision = revision, taken_gone = gone WHERE id = ?",
      [document.id, head.id],
    );
    // What ours was offered as to the sister is known to her by the same word.
    await tx.run(
      `UPDATE offer SET state = 'folded', taken_id = ?, taken_revision = revision, taken_gone = gone
        WHERE from_id = ? AND company_id = ? AND kind = ? AND source_id = ?`,
      [head.sourceId, companyId, head.fromId, selling ? 'purchase' : 'order', document.id],
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
    const [other] = await sql.rows<{ name: string }>(
      `SELECT c.name FROM sister s JOIN company c ON c.id = s.sister_id
        WHERE s.company_id = ? AND s.sister_id <> ? AND (s.customer_id = ? OR s.vendor_id = ?)`,
      [companyId, sisterId, customerId ?? 0, vendorId ?? 0],
    );
    return {
      sister,
      own: sisterId === companyId,
      customer: await known('customer', customerId),
      vendor: await known('vendor', vendorId),
      other: other?.name ?? null,
    };
  },
  decide({ own, customer, vendor, other }, { perCent, transfer }) {
    const refusals: Refusal[] = [];
    if (own) refusals.push(refuse('unknown', 'sisterId', { what: 'This company' }));
    if (!customer) refusals.push(refuse('unknown', 'customerId', { what: 'This customer' }));
    if (!vendor) refusals.push(refuse('unknown', 'vendorId', { what: 'This vendor' }));
    if (other !== null)
      refusals.push(refuse('party-of-sister', customer ? 'customerId' : 'vendorId', { sister: other }));
    const typed = perCent.trim() === '' ? '0' : perCent.trim();
    if (!isDecimalText(typed, 'percent')) refusals.push(refuse('not-a-number', 'perCent', { what: 'The share' }));
    else if (dec(typed).lt(0)) refusals.push(refuse('below-zero', 'perCent', { what: 'The share' }));
    else if (transfer === 'list-less' && dec(typed).gte(100)) {
      refusals.push(refuse('share-of-all', 'perCent', {}));
    }
    return decided(refusals, () => ({ perCent: dec(typed).toFixed() }));
  },
  preview: (_effects, { sister }) => ({ sister: sister.name }),
  async write(tx, { perCent }, _ground, { companyId }, input) {
    await tx.run(
      `INSERT INTO sister (company_id, sister_id, customer_id, vendor_id, transfer, per_cent, takes_fitting)
         VALUES (?, ?, ?, ?, ?, ?, ?)
       ON DUPLICATE KEY UPDATE customer_id = VALUES(customer_id), vendor_id = VALUES(vendor_id), transfer = VALUES(transfer),
         per_cent = VALUES(per_cent), takes_fitting = VALUES(takes_fitting)`,
      [companyId, input.sisterId, input.customerId, input.vendorId, input.transfer, perCent, input.takesFitting],
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

export const sisterActs = [takeOffer, returnOffer, setAsideOffer, sameAsOffer, keepSister, pairItems];
