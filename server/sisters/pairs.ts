import type * as z from 'zod';
import { proposePairs } from '@core/sisters';
import type * as contract from '@api/sisters';
import type { Sql } from '../db';
import { pairOf } from '../catalogue';
import { halfOf, sisterCompany, type SisterCompany } from './sources';
import { pairedTaxes, taxesOf } from './taxes';
import { FOLDED } from './tray';
import type { Sister } from './tables';

interface ItemRef {
  id: number;
  number: string;
  name: string;
  unit: string;
}

/** Items that are one in both companies, by our number; `factor` of our units are one of theirs. */
export async function pairedItems(
  sql: Sql,
  companyId: number,
  sisterId: number,
): Promise<{ ours: ItemRef; theirs: ItemRef; factor: string }[]> {
  const pair = pairOf(companyId, sisterId);
  const rows = await sql.rows<{
    id: number;
    number: string;
    name: string;
    unit: string;
    theirId: number;
    theirNumber: string;
    theirName: string;
    theirUnit: string;
    factor: string;
  }>(
    `SELECT o.id, o.number, o.name, o.unit, i.id AS their_id, i.number AS their_number, i.name AS their_name, i.unit AS their_unit,
            ${pair.factor} AS factor
       FROM item i ${pair.inner} WHERE i.company_id = ? ORDER BY o.number`,
    [...pair.values, sisterId],
  );
  return rows.map((row) => ({
    ours: { id: row.id, number: row.number, name: row.name, unit: row.unit },
    theirs: { id: row.theirId, number: row.theirNumber, name: row.theirName, unit: row.theirUnit },
    factor: row.factor,
  }));
}

async function parties(sql: Sql, companyId: number, half: Pick<Sister, 'customerId' | 'vendorId'>) {
  const one = async (table: 'customer' | 'vendor', id: number | null) => {
    if (id === null) return null;
    const [row] = await sql.rows<{ id: number; number: string; name: string }>(
      `SELECT id, number, name FROM ${table} WHERE company_id = ? AND id = ?`,
      [companyId, id],
    );
    return row ?? null;
  };
  const [customer, vendor] = await Promise.all([one('customer', half.customerId), one('vendor', half.vendorId)]);
  return { customer, vendor };
}

type Terms = Pick<Sister, 'transfer' | 'perCent' | 'takesFitting' | 'transitDays' | 'holdDays'>;
const termsOf = ({ transfer, perCent, takesFitting, transitDays, holdDays }: Terms): Terms => ({
  transfer,
  perCent,
  takesFitting,
  transitDays,
  holdDays,
});

/** Items looked through for twins at most: beyond that, pairs are made one by one where they are missed. */
const MOST_ITEMS = 2000;

const itemsOf = (sql: Sql, companyId: number) =>
  sql.rows<ItemRef>(
    'SELECT id, number, name, unit FROM item WHERE company_id = ? AND out_of_use = FALSE ORDER BY number LIMIT ?',
    [companyId, MOST_ITEMS],
  );

/** A pair of companies from our side. // X1 */
export async function openSister(
  sql: Sql,
  companyId: number,
  sisterId: number,
): Promise<z.infer<typeof contract.openSister.out>> {
  const sister = await sisterCompany(sql, sisterId);
  const [half, theirHalf] = [await halfOf(sql, companyId, sisterId), await halfOf(sql, sisterId, companyId)];
  const [own, theirs, items, ourItems, theirItems] = await Promise.all([
    parties(sql, companyId, half),
    parties(sql, sisterId, theirHalf),
    pairedItems(sql, companyId, sisterId),
    itemsOf(sql, companyId),
    itemsOf(sql, sisterId),
  ]);
  const paired = items.map((each) => ({ itemId: each.ours.id, theirItemId: each.theirs.id, factor: each.factor }));
  const known = new Set(paired.map(({ theirItemId }) => theirItemId));
  return {
    sister,
    half: { ...own, ...termsOf(half) },
    theirs,
    items,
    proposed: proposePairs(ourItems, theirItems, paired).map((each) => ({
      ours: each.ours,
      theirs: each.theirs,
      factor: '1',
    })),
    unpaired: theirItems.filter(({ id }) => !known.has(id)),
    taxes: sister.elsewhere ? [] : await pairedTaxes(sql, companyId, sisterId),
    ourTaxes: await taxesOf(sql, companyId),
  };
}

/** The other companies of the installation, as they are paired with ours. */
export async function listSisters(sql: Sql, companyId: number): Promise<z.infer<typeof contract.listSisters.out>> {
  const sisters = await sql.rows<
    SisterCompany & { email: string; waiting: number; sent: number; returned: number; items: number }
  >(
    `SELECT c.id, c.code, c.name, c.currency, c.elsewhere, c.email,
            (SELECT COUNT(*) FROM offer f WHERE f.company_id = ? AND f.waits = TRUE AND f.from_id = c.id AND NOT ${FOLDED}) AS waiting,
            (SELECT COUNT(*) FROM offer f WHERE f.from_id = ? AND f.state IN ('open', 'aside') AND f.company_id = c.id) AS sent,
            (SELECT COUNT(*) FROM offer f WHERE f.from_id = ? AND f.state = 'returned' AND f.company_id = c.id) AS returned,
            (SELECT COUNT(*) FROM sister_item m WHERE m.low_id = LEAST(?, c.id) AND m.high_id = GREATEST(?, c.id)) AS items
       FROM company c WHERE c.id <> ? ORDER BY c.name`,
    [companyId, companyId, companyId, companyId, companyId, companyId],
  );
  const rows = [];
  for (const { waiting, sent, returned, items, email, ...sister } of sisters) {
    const half = await halfOf(sql, companyId, sister.id);
    rows.push({
      sister,
      half: { ...(await parties(sql, companyId, half)), ...termsOf(half) },
      email,
      items,
      waiting,
      sent,
      returned,
    });
  }
  return { rows };
}
