import type { Content } from 'pdfmake/interfaces';
import { dec, priceText } from '@core/kernel';
import { orNotFound } from '../acts';
import { openSlip } from '../counter';
import type { Sql } from '../db';
import { bothCodes } from './bar-code';
import { day, FAINT, quantity, rightCell, type Unset } from './pdf';

const PAID_BY = { cash: 'Cash', card: 'Card', voucher: 'Voucher', account: 'On account' } as const;

/** A line of two cells, the second to the right. */
const pair = (left: string, right: string, bold = false): Content => ({
  columns: [
    { text: left, bold },
    { text: right, bold, alignment: 'right', width: 90 },
  ],
});

/** What the customer takes along: what was handed over, how it was paid, what waits, and the bar code it is called up by. // C3 C7 */
export async function slipPaper(sql: Sql, companyId: number, id: number): Promise<Unset | null> {
  const slip = await openSlip(sql, companyId, id);
  const [company] = await sql.rows<{ name: string; street: string; town: string; taxNumber: string }>(
    'SELECT name, street, town, tax_number FROM company WHERE id = ?',
    [companyId],
  );
  const us = orNotFound(company, 'This company');
  const money = (amount: string) => priceText(amount, slip.currency);
  const zero = (amount: string) => dec(amount).eq(0);
  const content: Content[] = [
    { text: us.name, bold: true },
    { text: [us.street, us.town].filter(Boolean).join(', '), fontSize: 9, color: FAINT },
    { text: us.taxNumber ? `Tax number ${us.taxNumber}` : '', fontSize: 9, color: FAINT },
    {
      text: `${slip.document.number}, ${day(slip.soldOn)}${slip.invoice ? `, invoice ${slip.invoice.number}` : ''}`,
      margin: [0, 8, 0, 0],
    },
    {
      text: `${slip.till}, ${slip.soldBy}${slip.named ? `, for ${slip.customer.name}` : ''}`,
      fontSize: 9,
      color: FAINT,
    },
    {
      margin: [0, 8, 0, 6],
      table: {
        widths: [40, '*', 70],
        body:
          slip.lines.length > 0
            ? slip.lines.map((line) => [
                quantity(line.quantity),
                `${line.item.number} ${line.item.name}, ${money(line.unitPrice)}${line.numbers.length > 0 ? ` (${line.numbers.join(', ')})` : ''}`,
                rightCell(money(line.net)),
              ])
            : [['', 'Nothing was taken along yet.', '']],
      },
      layout: 'lightHorizontalLines',
    },
    ...slip.taxes.map((tax) =>
      pair(`Tax ${tax.taxCode} ${quantity(tax.taxRate)} % of ${money(tax.base)}`, money(tax.tax)),
    ),
    pair(slip.currency, money(slip.total), true),
    ...(zero(slip.covered) ? [] : [pair('Paid ahead before', money(slip.covered))]),
    ...(zero(slip.deposited) ? [] : [pair('Deposit for what is fetched later', money(slip.deposited))]),
    ...slip.payments.map((each) =>
      pair(
        `${PAID_BY[each.kind]}${each.voucher ? ` ${each.voucher}` : ''}`,
        money(dec(each.invoiced).plus(each.deposited).plus(each.rounding).toFixed()),
      ),
    ),
    ...(zero(slip.given) ? [] : [pair(`Given ${money(slip.given)}, change`, money(slip.change))]),
    ...slip.waiting.map((line): Content => ({
      text: `Not taken along: ${quantity(line.quantity)} ${line.item.number} ${line.item.name}, to be fetched ${day(line.shipDate)}, ${line.order.number}`,
      margin: [0, 6, 0, 0],
      bold: true,
    })),
    { text: `Goods are taken back with this slip until ${day(slip.backUntil)}.`, fontSize: 9, margin: [0, 10, 0, 6] },
    bothCodes(slip.document.number, 170),
  ];
  return { number: slip.document.number, party: slip.customer.name, company: us.name, content };
}

/** What is taken from the counter to the till: what was written, and the bar code it is called up by. // C1 C7 */
export async function keptSlipPaper(sql: Sql, companyId: number, id: number): Promise<Unset | null> {
  const [order] = await sql.rows<{
    number: string;
    customer: string;
    who: string | null;
    day: string;
    company: string;
    net: string;
    currency: string;
  }>(
    `SELECT o.number, c.name AS customer, k.name AS who, o.order_date AS day, y.name AS company, o.net, o.currency
       FROM sales_order o
       JOIN customer c ON c.company_id = o.company_id AND c.id = o.customer_id
       JOIN company y ON y.id = o.company_id
       LEFT JOIN contact k ON k.company_id = o.company_id AND k.id = o.contact_id
      WHERE o.company_id = ? AND o.id = ?`,
    [companyId, id],
  );
  if (!order) return null;
  const lines = await sql.rows<{ number: string; name: string; unit: string; quantity: string; amount: string }>(
    `SELECT i.number, i.name, i.unit, l.quantity, l.amount FROM sales_order_line l
       JOIN item i ON i.company_id = l.company_id AND i.id = l.item_id
      WHERE l.company_id = ? AND l.order_id = ? ORDER BY l.line_no`,
    [companyId, id],
  );
  const money = (amount: string) => priceText(amount, order.currency);
  return {
    number: order.number,
    party: order.customer,
    company: order.company,
    content: [
      { text: order.company, bold: true },
      { text: `To pay at the till: ${order.number}, ${day(order.day)}`, margin: [0, 6, 0, 0] },
      { text: order.who ?? order.customer, color: FAINT },
      {
        margin: [0, 8, 0, 6],
        table: {
          widths: [60, '*', 70],
          body: lines.map((line) => [
            `${quantity(line.quantity)} ${line.unit}`,
            `${line.number} ${line.name}`,
            rightCell(money(line.amount)),
          ]),
        },
        layout: 'lightHorizontalLines',
      },
      pair(`${order.currency} net`, money(order.net), true),
      { text: ' ' },
      bothCodes(order.number, 170),
    ],
  };
}
