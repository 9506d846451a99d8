import type { Sql, Columns } from '../db';
import type { ShipTo } from './tables';

/** Columns of an address, read under the prefix `to_`. */
export const ADDRESS_COLUMNS =
  'st.id AS to_id, st.label AS to_label, st.street AS to_street, st.town AS to_town, st.postcode AS to_postcode, st.country AS to_country';

/** An address where there is one: all its columns, or none. */
export interface AddressColumns {
  toId: number | null;
  toLabel: string | null;
  toStreet: string | null;
  toTown: string | null;
  toPostcode: string | null;
  toCountry: string | null;
}

export function addressOf(row: AddressColumns) {
  return row.toId === null
    ? null
    : {
        id: row.toId,
        label: row.toLabel!,
        street: row.toStreet!,
        town: row.toTown!,
        postcode: row.toPostcode!,
        country: row.toCountry!,
      };
}

export function shipTosOf(sql: Sql, companyId: number, customerId: number) {
  return sql.rows<Columns<ShipTo, 'id label street town postcode country'>>(
    'SELECT id, label, street, town, postcode, country FROM ship_to WHERE company_id = ? AND customer_id = ? ORDER BY label',
    [companyId, customerId],
  );
}

/** An address in a line, as what changed says it. */
export const addressLine = ({ label, street, town }: Pick<ShipTo, 'label' | 'street' | 'town'>): string =>
  [label, street, town].filter((part) => part !== '').join(', ');
