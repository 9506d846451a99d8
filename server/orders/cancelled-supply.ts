import type { CancelEffects, TiedSupply } from '@core/orders';
import { fatesOf } from '@core/orders';
import type * as z from 'zod';
import type * as contract from '@api/orders';
import { doWithin, type Doer, type Touched } from '../acts';
import type { Sql, Tx } from '../db';
import { cancelPurchase, purchaseToStock, untie } from '../supply';

/** The buying agreements that price what was bought for an order. */
export async function buyingFor(sql: Sql, companyId: number, orderId: number): Promise<number[]> {
  const rows = await sql.rows<{ id: number }>(
    `SELECT DISTINCT al.agreement_id AS id FROM sales_order_line l
       JOIN tie t ON t.company_id = l.company_id AND t.order_line_id = l.id
       JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
       JOIN agreement_line al ON al.company_id = pl.company_id AND al.id = pl.agreement_line_id
      WHERE l.company_id = ? AND l.order_id = ?`,
    [companyId, orderId],
  );
  return rows.map(({ id }) => id);
}

/** The purchases tied to an order's lines, with whom else they are for. */
export async function suppliesOf(
  sql: Sql,
  companyId: number,
  orderId: number,
): Promise<(TiedSupply & { vendor: string })[]> {
  const rows = await sql.rows<{
    id: number;
    number: string;
    state: string;
    vendor: string;
    straight: number;
    tieId: number;
    received: string;
    others: string | null;
  }>(
    `SELECT p.id, p.number, p.state, v.name AS vendor, p.ship_to_id IS NOT NULL AS straight, t.id AS tie_id, t.received,
            (SELECT GROUP_CONCAT(DISTINCT oo.number ORDER BY oo.id SEPARATOR '\n') FROM purchase_order_line ol
               JOIN tie ot ON ot.company_id = ol.company_id AND ot.purchase_line_id = ol.id
               JOIN sales_order_line os ON os.company_id = ot.company_id AND os.id = ot.order_line_id
               JOIN sales_order oo ON oo.company_id = os.company_id AND oo.id = os.order_id
              WHERE ol.company_id = p.company_id AND ol.purchase_order_id = p.id AND oo.id <> l.order_id) AS others
       FROM sales_order_line l
       JOIN tie t ON t.company_id = l.company_id AND t.order_line_id = l.id
       JOIN purchase_order_line pl ON pl.company_id = t.company_id AND pl.id = t.purchase_line_id
       JOIN purchase_order p ON p.company_id = pl.company_id AND p.id = pl.purchase_order_id
       JOIN vendor v ON v.company_id = p.company_id AND v.id = p.vendor_id
      WHERE l.company_id = ? AND l.order_id = ? ORDER BY p.id, t.id`,
    [companyId, orderId],
  );
  const byPurchase = new Map<number, TiedSupply & { vendor: string }>();
  for (const { tieId, received, others, straight, ...purchase } of rows) {
    const known = byPurchase.get(purchase.id);
    byPurchase.set(purchase.id, {
      ...purchase,
      straight: Boolean(straight),
      tieIds: [...(known?.tieIds ?? []), tieId],
      // One that came of any of them is enough to know.
      received: known && known.received !== '0' ? known.received : received,
      others: (others ?? '').split('\n').filter(Boolean),
    });
  }
  return [...byPurchase.values()];
}

/** What one is asked before an order is cancelled. */
export async function orderSupplies(
  sql: Sql,
  companyId: number,
  orderId: number,
): Promise<z.infer<typeof contract.orderSupplies.out>> {
  const supplies = await suppliesOf(sql, companyId, orderId);
  return {
    rows: supplies.map((supply) => ({
      purchase: { kind: 'PO', id: supply.id, number: supply.number },
      vendor: supply.vendor,
      straight: supply.straight,
      received: supply.received,
      others: [...supply.others],
      fates: fatesOf(supply),
    })),
  };
}

/** Parts an order from what was bought for it, and does with each what was said. // L4 S8 */
export async function partSupplies(
  tx: Tx,
  supplies: CancelEffects['supplies'],
  reason: string,
  doer: Doer,
): Promise<Touched[]> {
  const touched: Touched[] = [];
  const does = async (...done: Parameters<typeof doWithin>) => touched.push(...(await doWithin(...done)).touched);
  for (const { supply, fate } of supplies) {
    await does(tx, untie, { tieIds: supply.tieIds }, doer);
    // Neither is held against a version: what is decided is decided here.
    if (fate === 'cancel') await does(tx, cancelPurchase, { purchaseId: supply.id, version: 0, reason }, doer);
    if (fate === 'stock') await does(tx, purchaseToStock, { id: supply.id, version: 0 }, doer);
  }
  const last = new Map(touched.map((document) => [`${document.kind} ${document.id}`, document]));
  return [...last.values()].filter(({ kind }) => kind !== 'SO');
}
