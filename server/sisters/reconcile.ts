import type * as z from 'zod';
import { dec, least, sum, type Day } from '@core/kernel';
import { eliminations, reconcile, type AccountPair, type OwedByUs, type OwedToThem } from '@core/sisters';
import type * as contract from '@api/sisters';
import type { Sql } from '../db';
import { halfOf, sisterCompany } from './sources';

/** Goods under way told at most. */
const MOST_UNDER_WAY = 200;

/** What a seller says its sister owes, and what became of each invoice there. Served by open_item_owing_customer. */
async function sellerSays(sql: Sql, sellerId: number, buyerId: number): Promise<OwedToThem[]> {
  const { customerId } = await halfOf(sql, sellerId, buyerId);
  return sql.rows<OwedToThem>(
    `SELECT i.number, o.currency, i.invoice_date AS day, o.amount - o.settled AS owed,
            CASE WHEN f.id IS NULL THEN 'not-offered' WHEN f.state = 'returned' THEN 'returned'
                 WHEN f.state IN ('taken', 'folded') THEN 'known' ELSE 'waiting' END AS offered
       FROM open_item o
       JOIN customer_invoice i ON i.company_id = o.company_id AND i.id = o.customer_invoice_id
       LEFT JOIN offer f ON f.from_id = o.company_id AND f.kind = 'invoice' AND f.source_id = i.id
      WHERE o.company_id = ? AND o.owing = TRUE AND o.customer_id = ? ORDER BY i.invoice_date, i.id`,
    [sellerId, customerId ?? 0],
  );
}

/** What a buyer says it owes the sister, by her numbers. Served by open_item_owing_vendor. */
async function buyerSays(sql: Sql, buyerId: number, sellerId: number): Promise<OwedByUs[]> {
  const { vendorId } = await halfOf(sql, buyerId, sellerId);
  return sql.rows<OwedByUs>(
    `SELECT i.number, i.vendor_number AS their_number, o.currency, o.amount - o.settled AS owed FROM open_item o
       JOIN vendor_invoice i ON i.company_id = o.company_id AND i.id = o.vendor_invoice_id
      WHERE o.company_id = ? AND o.owing = TRUE AND o.vendor_id = ? ORDER BY i.invoice_date, i.id`,
    [buyerId, vendorId ?? 0],
  );
}

/** What a company elsewhere says we owe, by the invoices she sent; what we paid of one she knows. */
async function saysElsewhere(sql: Sql, sellerId: number, buyerId: number): Promise<OwedToThem[]> {
  const { vendorId } = await halfOf(sql, buyerId, sellerId);
  return sql.rows<OwedToThem>(
    `SELECT d.number, d.currency, d.day, d.total - COALESCE(o.settled, 0) AS owed,
            CASE f.state WHEN 'returned' THEN 'returned' WHEN 'taken' THEN 'known' WHEN 'folded' THEN 'known' ELSE 'waiting' END AS offered
       FROM elsewhere_document d
       JOIN offer f ON f.from_id = d.company_id AND f.kind = 'invoice' AND f.source_id = d.id
       LEFT JOIN vendor_invoice v ON v.company_id = d.to_id AND v.vendor_id = ? AND v.vendor_number = d.number
       LEFT JOIN open_item o ON o.company_id = v.company_id AND o.vendor_invoice_id = v.id
      WHERE d.company_id = ? AND d.to_id = ? AND d.kind = 'invoice' AND d.total > COALESCE(o.settled, 0) ORDER BY d.day, d.id`,
    [vendorId ?? 0, sellerId, buyerId],
  );
}

/** What a company elsewhere shipped us and is not received. */
async function underWayElsewhere(sql: Sql, sellerId: number, buyerId: number) {
  const rows = await sql.rows<{ number: string; day: Day; items: string }>(
    `SELECT f.number, d.day,
            (SELECT GROUP_CONCAT(CONCAT(TRIM(TRAILING '.' FROM TRIM(TRAILING '0' FROM l.quantity)), ' ', i.number) ORDER BY l.line_no SEPARATOR ', ')
               FROM elsewhere_line l JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
              WHERE l.company_id = d.company_id AND l.document_id = d.id) AS items
       FROM offer f FORCE INDEX (offer_from)
       JOIN elsewhere_document d ON d.company_id = f.from_id AND d.id = f.source_id
      WHERE f.from_id = ? AND f.state IN ('open', 'aside') AND f.company_id = ? AND f.kind = 'receipt' ORDER BY f.id LIMIT ?`,
    [sellerId, buyerId, MOST_UNDER_WAY],
  );
  return rows.map((row) => ({ ...row, ours: false }));
}

/** A pair's books side by side, both ways; of a company elsewhere what she told us, and not what she made of ours. // X5 */
export async function reconcileSister(
  sql: Sql,
  companyId: number,
  sisterId: number,
  workDate: Day,
): Promise<z.infer<typeof contract.reconcileSister.out>> {
  const sister = await sisterCompany(sql, sisterId);
  if (sister.elsewhere) {
    return {
      sister,
      bought: reconcile(await saysElsewhere(sql, sisterId, companyId), await buyerSays(sql, companyId, sisterId)),
      sold: { rows: [], totals: [] },
      netting: [],
      accounts: [],
      underWay: await underWayElsewhere(sql, sisterId, companyId),
    };
  }
  const bought = reconcile(await sellerSays(sql, sisterId, companyId), await buyerSays(sql, companyId, sisterId));
  const sold = reconcile(await sellerSays(sql, companyId, sisterId), await buyerSays(sql, sisterId, companyId));
  const currencies = [...new Set([...bought.totals, ...sold.totals].map(({ currency }) => currency))].sort();
  const said = (side: typeof bought, currency: string, by: 'theySay' | 'weSay') =>
    dec(side.totals.find((total) => total.currency === currency)?.[by] ?? '0');
  return {
    sister,
    bought,
    sold,
    netting: currencies.flatMap((currency) => {
      // Only what both say can be set off.
      const owedToThem = least(said(bought, currency, 'theySay'), said(bought, currency, 'weSay'));
      const owedToUs = least(said(sold, currency, 'theySay'), said(sold, currency, 'weSay'));
      const net = least(owedToThem, owedToUs);
      return net.gt(0)
        ? [{ currency, owedToThem: owedToThem.toFixed(), owedToUs: owedToUs.toFixed(), net: net.toFixed() }]
        : [];
    }),
    accounts: [
      ...eliminations(await accountsOf(sql, sisterId, companyId, bought, workDate)).map((each) => ({
        ...each,
        ours: 'bought' as const,
      })),
      ...eliminations(await accountsOf(sql, companyId, sisterId, sold, workDate)).map((each) => ({
        ...each,
        ours: 'sold' as const,
      })),
    ],
    underWay: [
      ...(await underWay(sql, sisterId, companyId, false)),
      ...(await underWay(sql, companyId, sisterId, true)),
    ],
  };
}

/** What is owed, and what was sold and bought in the month of a day, in each currency. Served by keys on the invoices' days. */
async function accountsOf(
  sql: Sql,
  sellerId: number,
  buyerId: number,
  { totals }: ReturnType<typeof reconcile>,
  workDate: Day,
): Promise<AccountPair[]> {
  const { customerId } = await halfOf(sql, sellerId, buyerId);
  const { vendorId } = await halfOf(sql, buyerId, sellerId);
  const month = `${workDate.slice(0, 7)}-01`;
  type Turnover = { currency: string; net: string }[];
  const [invoiced, credited, entered] = await Promise.all([
    sql.rows<Turnover[number]>(
      `SELECT currency, SUM(net) AS net FROM customer_invoice FORCE INDEX (customer_invoice_dated)
        WHERE company_id = ? AND invoice_date BETWEEN ? AND LAST_DAY(?) AND customer_id = ? GROUP BY currency`,
      [sellerId, month, month, customerId ?? 0],
    ),
    sql.rows<Turnover[number]>(
      `SELECT currency, SUM(net) AS net FROM credit_note FORCE INDEX (credit_note_dated)
        WHERE company_id = ? AND credit_date BETWEEN ? AND LAST_DAY(?) AND customer_id = ? GROUP BY currency`,
      [sellerId, month, month, customerId ?? 0],
    ),
    sql.rows<Turnover[number]>(
      `SELECT currency, SUM(net) AS net FROM vendor_invoice FORCE INDEX (vendor_invoice_dated)
        WHERE company_id = ? AND invoice_date BETWEEN ? AND LAST_DAY(?) AND vendor_id = ? GROUP BY currency`,
      [buyerId, month, month, vendorId ?? 0],
    ),
  ]);
  const of = (rows: Turnover, currency: string) =>
    sum(rows.filter((row) => row.currency === currency).map(({ net }) => dec(net)));
  const currencies = [...new Set([...invoiced, ...credited, ...entered].map(({ currency }) => currency))].sort();
  return [
    ...totals.map(({ currency, theySay, weSay }) => ({
      account: 'Receivable and payable',
      currency,
      theySay,
      weSay,
    })),
    ...currencies.map((currency) => ({
      account: 'Revenue and purchases this month',
      currency,
      theySay: of(invoiced, currency).minus(of(credited, currency)).toFixed(),
      weSay: of(entered, currency).toFixed(),
    })),
  ];
}

/** What one shipped and the other has not received. */
async function underWay(sql: Sql, sellerId: number, buyerId: number, ours: boolean) {
  const rows = await sql.rows<{ number: string; day: Day; items: string }>(
    `SELECT f.number, s.posted_on AS day,
            (SELECT GROUP_CONCAT(CONCAT(TRIM(TRAILING '.' FROM TRIM(TRAILING '0' FROM l.quantity)), ' ', i.number) ORDER BY l.id SEPARATOR ', ')
               FROM shipment_line l JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
              WHERE l.company_id = s.company_id AND l.shipment_id = s.id) AS items
       FROM offer f FORCE INDEX (offer_from)
       JOIN shipment s ON s.company_id = f.from_id AND s.id = f.source_id
      WHERE f.from_id = ? AND f.state IN ('open', 'aside') AND f.company_id = ? AND f.kind = 'receipt' ORDER BY f.id LIMIT ?`,
    [sellerId, buyerId, MOST_UNDER_WAY],
  );
  return rows.map((row) => ({ ...row, ours }));
}
