import type * as z from 'zod';
import { tellTakenBefore } from '@api/agreements';
import { openItems } from '@api/billing';
import type { ActEndpoint } from '@api/kit';
import { openPurchases } from '@api/purchasing';
import { openStock } from '@api/stock';
import type { ActDone } from '../kit/act/api';
import { counted, money } from '../kit/formats';

/** Something a company begins with: how it is written, a line each, and the act that takes it. // U3 */
export interface OpeningKind {
  /** In the address. */
  what: string;
  name: string;
  sub: string;
  columns: readonly { head: string; figures?: true }[];
  /** The column that holds a number in every line: a heading has none there. */
  figure: number;
  example: string;
  /** The right whose people do it. */
  right: 'goods' | 'customer-invoices' | 'vendor-invoices' | 'agreements' | 'purchases';
  endpoint: ActEndpoint;
  input: (rows: readonly (readonly string[])[]) => unknown;
  /** What taking it does, in words; amounts are in the company's currency. */
  says: (effects: unknown, currency: string) => string;
  done: (did: ActDone, lines: number) => string;
}

/** A kind with its act's own types; the page knows them as acts. */
const kind = <E extends ActEndpoint>(
  told: Omit<OpeningKind, 'endpoint' | 'input' | 'says'> & {
    endpoint: E;
    input: (rows: readonly (readonly string[])[]) => z.input<E['input']>;
    says: (effects: z.output<E['preview']>, currency: string) => string;
  },
): OpeningKind => told as unknown as OpeningKind;

const SO_ALREADY = 'All of it stands so already.';
const standing = (same: number) => (same === 0 ? '' : `; ${counted(same, 'line stands', 'lines stand')} so already`);

const owed = (side: 'customer' | 'vendor') =>
  kind({
    what: `${side}s`,
    name: side === 'customer' ? 'Owed by customers' : 'Owed to vendors',
    sub: 'what is still owed of invoices from before Kampong, against the opening balance',
    columns: [
      { head: side === 'customer' ? 'Customer' : 'Vendor' },
      { head: side === 'customer' ? 'Our number' : 'Their number' },
      { head: 'Invoiced' },
      { head: 'Due' },
      { head: 'Owed', figures: true },
      { head: 'Currency' },
    ],
    figure: 4,
    example:
      side === 'customer'
        ? 'C-1001\tOLD-0412\t2027-01-14\t2027-02-13\t1,240.50'
        : 'V-201\t88-1734\t2027-01-20\t2027-03-01\t940\tUSD',
    right: side === 'customer' ? 'customer-invoices' : 'vendor-invoices',
    endpoint: openItems,
    input: (rows) => ({
      side,
      lines: rows.map(([party = '', number = '', invoiced = '', due = '', amount = '', currency = '']) => ({
        party,
        number,
        invoiced,
        due,
        amount,
        currency,
      })),
    }),
    says: ({ own, same }, currency) => `${money(own, currency)} together${standing(same)}`,
    done: ({ made }) => (made.length === 0 ? SO_ALREADY : `${counted(made.length, 'invoice')} opened.`),
  });

export const OPENING_KINDS: readonly OpeningKind[] = [
  kind({
    what: 'stock',
    name: 'Stock',
    sub: 'what was there before Kampong, at what it cost, against the opening balance',
    columns: [
      { head: 'Item' },
      { head: 'Place' },
      { head: 'Quantity', figures: true },
      { head: 'Cost of one', figures: true },
      { head: 'Serial numbers' },
    ],
    figure: 2,
    example: 'CL-10\tMAIN\t40\t121',
    right: 'goods',
    endpoint: openStock,
    input: (rows) => ({
      lines: rows.map(([item = '', location = '', quantity = '', unitCost = '', ...numbers]) => ({
        item,
        location,
        quantity,
        unitCost,
        numbers: numbers.flatMap((each) => each.split(/[\s,;]+/)).filter((each) => each !== ''),
      })),
    }),
    says: ({ cost }, currency) => `worth ${money(cost, currency)} together`,
    done: (_did, lines) => `${counted(lines, 'line')} on hand.`,
  }),
  owed('customer'),
  owed('vendor'),
  kind({
    what: 'purchases',
    name: 'On order',
    sub: 'what is still to come of purchases that were placed before Kampong',
    columns: [
      { head: 'Vendor' },
      { head: 'Its number before' },
      { head: 'Item' },
      { head: 'To come', figures: true },
      { head: 'Price', figures: true },
      { head: 'Due' },
      { head: 'Place' },
    ],
    figure: 3,
    example: 'V-201\tOLD-PO-88\tCL-10\t120\t96.50\t2027-03-20',
    right: 'purchases',
    endpoint: openPurchases,
    input: (rows) => ({
      lines: rows.map(([vendor = '', number = '', item = '', quantity = '', price = '', due = '', place = '']) => ({
        vendor,
        number,
        item,
        quantity,
        price,
        due,
        place,
      })),
    }),
    says: ({ purchases, same, nets }) =>
      `${counted(purchases, 'purchase')}, ${nets.map(({ currency, net }) => `${currency} ${money(net, currency)}`).join(' and ')}${standing(same)}`,
    done: ({ made }) => (made.length === 0 ? SO_ALREADY : `${counted(made.length, 'purchase')} placed.`),
  }),
  kind({
    what: 'agreements',
    name: 'Taken of agreements',
    sub: 'what was released, shipped and invoiced of them before Kampong, as a whole',
    columns: [
      { head: 'Agreement' },
      { head: 'Item or group' },
      { head: 'Taken', figures: true },
      { head: 'What that came to', figures: true },
    ],
    figure: 2,
    example: 'AG-0001\tCL-10\t120',
    right: 'agreements',
    endpoint: tellTakenBefore,
    input: (rows) => ({
      lines: rows.map(([agreement = '', item = '', quantity = '', value = '']) => ({
        agreement,
        item,
        quantity,
        value,
      })),
    }),
    says: ({ lines, same }) => `${counted(lines, 'line')} told anew${standing(same)}`,
    done: ({ touched }) => (touched.length === 0 ? SO_ALREADY : `${counted(touched.length, 'agreement')} changed.`),
  }),
];
