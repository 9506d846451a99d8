import type * as z from 'zod';
import type { TillNow } from '@core/counter';
import type * as contract from '@api/counter';
import { orNotFound } from '../acts';
import { ownCurrency } from '../catalogue';
import type { Sql } from '../db';

interface TillRead {
  id: number;
  name: string;
  locationId: number;
  currency: string;
  drawerId: number | null;
  drawerNumber: string | null;
  version: number | null;
  cash: string | null;
}

type Loaded = TillNow & { id: number; locationId: number; version: number };

/** A till as deciding sees it, its open drawer locked: who takes money there goes one after the other. */
export const loadTill = (sql: Sql, companyId: number, tillId: number): Promise<Loaded> =>
  readTill(sql, companyId, tillId, sql.forUpdate);

/** A till as it is, for who moves no money in it: nobody waits for that. */
export const tillNow = (sql: Sql, companyId: number, tillId: number): Promise<Loaded> =>
  readTill(sql, companyId, tillId, '');

async function readTill(sql: Sql, companyId: number, tillId: number, lock: string): Promise<Loaded> {
  const [row] = await sql.rows<TillRead>(
    `SELECT t.id, t.name, t.location_id, ${ownCurrency('t.company_id')} AS currency, d.id AS drawer_id, d.number AS drawer_number, d.version, d.cash
       FROM till t LEFT JOIN drawer d ON d.company_id = t.company_id AND d.open_till = t.id
      WHERE t.company_id = ? AND t.id = ? ${lock}`,
    [companyId, tillId],
  );
  const { id, name, locationId, currency, drawerId, drawerNumber, version, cash } = orNotFound(row, 'This till');
  return {
    id,
    name,
    locationId,
    currency,
    version: version ?? 0,
    drawer: drawerId === null ? null : { id: drawerId, number: drawerNumber!, cash: cash! },
  };
}

/** The tills of a company, each with its open drawer and the card payments that are on no slip. */
export async function listTills(sql: Sql, companyId: number): Promise<z.infer<typeof contract.listTills.out>> {
  const tills = await sql.rows<TillRead & { openedOn: string | null; openedBy: string | null }>(
    `SELECT t.id, t.name, t.location_id, ${ownCurrency('t.company_id')} AS currency, d.id AS drawer_id, d.number AS drawer_number, d.version, d.cash,
            d.opened_on, p.name AS opened_by
       FROM till t
       LEFT JOIN drawer d ON d.company_id = t.company_id AND d.open_till = t.id
       LEFT JOIN person p ON p.id = d.opened_by
      WHERE t.company_id = ? ORDER BY t.id`,
    [companyId],
  );
  const cards = await sql.rows<{
    id: number;
    tillId: number;
    amount: string;
    state: 'asked' | 'taken';
    orderId: number;
    number: string;
    back: boolean;
  }>(
    `SELECT k.id, k.till_id, k.amount, k.state, k.order_id, k.back, o.number FROM card_payment k
       JOIN sales_order o ON o.company_id = k.company_id AND o.id = k.order_id
      WHERE k.company_id = ? AND k.hanging = TRUE ORDER BY k.id`,
    [companyId],
  );
  return {
    rows: tills.map(({ id, name, currency, drawerId, drawerNumber, version, cash, openedOn, openedBy }) => ({
      id,
      name,
      currency,
      drawer:
        drawerId === null
          ? null
          : {
              document: { kind: 'DR', id: drawerId, number: drawerNumber! },
              version: version!,
              cash: cash!,
              openedOn: openedOn!,
              openedBy: openedBy!,
            },
      cards: cards
        .filter(({ tillId }) => tillId === id)
        .map(({ number, tillId: _tillId, ...card }) => ({
          ...card,
          order: { kind: 'SO' as const, id: card.orderId, number },
        })),
    })),
  };
}
