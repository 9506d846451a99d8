import type * as z from 'zod';
import type * as contract from '@api/going-out';
import { counted, day, quantity } from '../kit/formats';

export type Row = z.infer<typeof contract.GoingRow>;

export interface Address {
  key: string;
  customer: Row['customer'];
  shipTo: Row['shipTo'];
  location: Row['location'];
  rows: Row[];
}

/** Rows as a dispatcher's sheet: by ship day, then customer by name, address and place they leave. The rows' order stands. */
export function byDay(rows: readonly Row[]): { day: string; addresses: Address[] }[] {
  const days = new Map<string, Map<string, Address>>();
  for (const row of rows) {
    const { customer, shipTo, location } = row;
    const addresses = days.get(row.shipDate) ?? new Map<string, Address>();
    days.set(row.shipDate, addresses);
    const key = `${customer.id} ${shipTo.id} ${location.id}`;
    const address = addresses.get(key) ?? { key: `${row.shipDate} ${key}`, customer, shipTo, location, rows: [] };
    addresses.set(key, address);
    address.rows.push(row);
  }
  return [...days].map(([shipDay, addresses]) => ({
    day: shipDay,
    addresses: [...addresses.values()].sort((a, b) => a.customer.name.localeCompare(b.customer.name, 'en')),
  }));
}

/** What is short of a line and what would end it, or what still comes for it; nothing where all of it is here. */
export function comesWords({ short, missing, late, coming, route, now, open }: Row, workDate: string): string {
  const brings = (all: Row['coming']) =>
    all.map(
      (each) =>
        `${each.by.number}${each.party ? ` of ${each.party}` : ''} brings ${quantity(each.quantity)} ${day(each.day, workDate)}`,
    );
  if (short !== '0') {
    const nothing = missing === '0' ? [] : [`nothing brings ${late.length > 0 ? quantity(missing) : 'it'}`];
    return `${quantity(short)} short: ${[...brings(late), ...nothing].join(', ')}`;
  }
  if (coming.length === 0) return '';
  if (route === 'assemble' && now === open) return `assembled as it goes, on ${coming[0]!.by.number}`;
  return brings(coming).join(', ');
}

/** What the page shows, in a sentence. */
export function sheetWords(rows: readonly Row[]): string {
  if (rows.length === 0) return 'nothing leaves our places in these days';
  const addresses = new Set(rows.map(({ customer, shipTo }) => `${customer.id} ${shipTo.id}`)).size;
  const short = rows.filter((row) => row.short !== '0').length;
  return [
    `${counted(rows.length, 'line')} to ${counted(addresses, 'address', 'addresses')}`,
    ...(short > 0 ? [`${short} short`] : []),
  ].join(', ');
}
