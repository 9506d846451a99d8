import type { Tx } from '../db';
import { shipToTable } from '../parties/tables';
import type { Place, SourceHead } from './sources';
import { sisterAddressTable } from './tables';

/**
 * Where what a sister orders goes, among her addresses here: to her own place (the first of them), or straight to a
 * customer of hers, whose address is kept here the first time it is needed. Null where she has no address yet. // X1 X4
 */
export async function shipToHere(
  tx: Tx,
  sellerId: number,
  buyerId: number,
  customerId: number,
  { shipToId: buyerShipToId, place }: Pick<SourceHead, 'shipToId' | 'place'>,
): Promise<number | null> {
  if (place) return placeHere(tx, sellerId, customerId, place);
  if (buyerShipToId === null) {
    const [own] = await tx.rows<{ id: number }>(
      `SELECT s.id FROM ship_to s WHERE s.company_id = ? AND s.customer_id = ?
          AND NOT EXISTS (SELECT 1 FROM sister_address a WHERE a.seller_id = s.company_id AND a.ship_to_id = s.id)
        ORDER BY s.id LIMIT 1`,
      [sellerId, customerId],
    );
    return own?.id ?? null;
  }
  const [known] = await tx.rows<{ id: number }>(
    'SELECT ship_to_id AS id FROM sister_address WHERE buyer_id = ? AND buyer_ship_to_id = ? AND seller_id = ?',
    [buyerId, buyerShipToId, sellerId],
  );
  if (known) return known.id;
  const [theirs] = await tx.rows<{
    customer: string;
    label: string;
    street: string;
    town: string;
    postcode: string;
    country: string;
  }>(
    `SELECT c.name AS customer, s.label, s.street, s.town, s.postcode, s.country FROM ship_to s
       JOIN customer c ON c.company_id = s.company_id AND c.id = s.customer_id WHERE s.company_id = ? AND s.id = ?`,
    [buyerId, buyerShipToId],
  );
  const { customer, label, ...address } = theirs!;
  const [id] = await tx.insert(shipToTable, [
    { companyId: sellerId, customerId, label: `${customer}, ${label}`.slice(0, 60), ...address },
  ]);
  await tx.insertPlain(sisterAddressTable, [{ sellerId, shipToId: id!, buyerId, buyerShipToId }]);
  return id!;
}

/** A place that a company elsewhere told, among her addresses here; kept the first time it is needed. */
async function placeHere(tx: Tx, companyId: number, customerId: number, place: Place): Promise<number> {
  const [known] = await tx.rows<{ id: number }>(
    'SELECT id FROM ship_to WHERE company_id = ? AND customer_id = ? AND label = ? AND street = ? AND town = ? ORDER BY id LIMIT 1',
    [companyId, customerId, place.label, place.street, place.town],
  );
  if (known) return known.id;
  const [id] = await tx.insert(shipToTable, [{ companyId, customerId, ...place }]);
  return id!;
}
