import { listInvoices } from '@api/billing';
import { listOrders } from '@api/orders';
import { listPurchases } from '@api/purchasing';
import { listInvoices as readInvoices } from '../billing';
import { listOrders as readOrders } from '../orders';
import { listPurchases as readPurchases } from '../purchasing';
import { checked, type FileAnswer } from '../room';
import { tableFiles } from './spreadsheet';
import type { Table } from './write-table';

/** Rows of a list written to a file; a larger list says how it goes on. */
const MOST_ROWS = 50_000;
/** Read at once. */
const AT_ONCE = 200;

/** All rows of a list, page by page, as far as a file goes. */
async function allRows<Row>(
  read: (asked: { cursor?: string; rows: number }) => Promise<{ rows: Row[]; next: string | null }>,
): Promise<Row[]> {
  const rows: Row[] = [];
  for (let cursor: string | null | undefined; cursor !== null && rows.length < MOST_ROWS;) {
    const page = await read({ rows: AT_ONCE, ...(cursor === undefined ? {} : { cursor }) });
    rows.push(...page.rows);
    cursor = page.next;
  }
  return rows;
}

const percent = (share: number) => String(Math.round(share * 100));

/** Orders, purchases and invoices as CSV and XLSX, filtered and sorted as the list is. */
export const listFiles: readonly FileAnswer[] = [
  ...tableFiles('orders', undefined, async ({ parts, who, query }): Promise<Table> => {
    const asked = checked(listOrders.query, query, 'The address');
    const rows = await parts.database.snapshot((sql) =>
      allRows((page) => readOrders(sql, who.companyId, { ...asked, ...page }, who.workDate)),
    );
    return [
      [
        ...['number', 'customer', 'customer name', 'their reference', 'released from', 'state', 'ordered'],
        ...['first goes out', 'currency', 'net', 'supplied %', 'shipped %', 'invoiced %'],
      ],
      ...rows.map((row) => [
        row.number,
        row.customer.number,
        row.customer.name,
        row.customerReference,
        row.agreement?.number ?? '',
        row.state,
        row.orderDate,
        row.firstShipDate ?? '',
        row.currency,
        row.net,
        percent(row.shares.covered),
        percent(row.shares.shipped),
        percent(row.shares.invoiced),
      ]),
    ];
  }),
  ...tableFiles('purchases', undefined, async ({ parts, who, query }): Promise<Table> => {
    const asked = checked(listPurchases.query, query, 'The address');
    const rows = await parts.database.snapshot((sql) =>
      allRows((page) => readPurchases(sql, who.companyId, { ...asked, ...page }, who.workDate)),
    );
    return [
      [
        ...['number', 'vendor', 'vendor name', 'straight to', 'for', 'state', 'placed', 'due', 'currency', 'net'],
        ...['received %', 'invoiced %', 'received beyond'],
      ],
      ...rows.map((row) => [
        row.number,
        row.vendor.number,
        row.vendor.name,
        row.customer?.name ?? '',
        row.forWhom.join(', '),
        row.state,
        row.orderDate,
        row.openDue ?? row.firstDueDate ?? '',
        row.currency,
        row.net,
        percent(row.shares.received),
        percent(row.shares.invoiced),
        row.over,
      ]),
    ];
  }),
  ...tableFiles('invoices', 'see-debts', async ({ parts, who, query }): Promise<Table> => {
    const asked = checked(listInvoices.query, query, 'The address');
    const rows = await parts.database.snapshot((sql) =>
      allRows((page) => readInvoices(sql, who.companyId, { ...asked, ...page }, who.workDate)),
    );
    return [
      [...['number', 'their number', 'party', 'party name', 'order', 'invoiced', 'due', 'currency', 'total', 'owed']],
      ...rows.map((row) => [
        row.document.number,
        row.vendorNumber ?? '',
        row.party.number,
        row.party.name,
        row.source.number,
        row.invoiceDate,
        row.dueDate,
        row.currency,
        row.total,
        row.owed,
      ]),
    ];
  }),
];
