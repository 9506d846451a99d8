import type { TableCell } from 'pdfmake/interfaces';
import { amountText, dec, inUnits } from '@core/kernel';
import { openStatement } from '../commission';
import type { Sql } from '../db';
import type { SignedIn } from '../room';
import { day, FAINT, facts, headCell, quantity, rightCell, type Unset } from './pdf';

/** What a sales person earned, line by line, to be signed for. // S12 */
export async function statementPaper(sql: Sql, who: SignedIn, id: number): Promise<Unset> {
  const statement = await openStatement(sql, who, id);
  const [company] = await sql.rows<{ name: string }>('SELECT name FROM company WHERE id = ?', [who.companyId]);
  const { currency } = statement;
  return {
    number: statement.document.number,
    party: statement.person.name,
    company: company!.name,
    content: [
      { text: company!.name, fontSize: 9, color: FAINT },
      { text: `Commission statement ${statement.document.number}`, fontSize: 18, margin: [0, 2, 0, 8] },
      facts([
        ['Sales person', statement.person.name],
        ['Earned up to', day(statement.until)],
        [
          'State',
          statement.paidOn ? `paid ${day(statement.paidOn)}` : statement.state === 'made' ? 'owed' : statement.state,
        ],
      ]),
      {
        table: {
          headerRows: 1,
          dontBreakRows: true,
          widths: [58, 52, '*', 64, 150, 60],
          body: [
            [
              headCell('Day'),
              headCell('Invoice'),
              headCell('Customer'),
              headCell('For'),
              headCell('How it is reckoned'),
              headCell(currency, true),
            ],
            ...statement.lines.map((line): TableCell[] => [
              day(line.day),
              line.invoice.number,
              line.customer.name,
              line.item.number,
              `${quantity(line.perCent)} % of ${line.of === 'net' ? '' : 'the margin '}${amountText(line.base, currency)}${dec(line.share).eq(100) ? '' : `, ${inUnits(quantity(line.share), '%')} of it`}`,
              rightCell(amountText(line.amount, currency)),
            ]),
            ['', '', '', '', headCell('In all'), rightCell(amountText(statement.amount, currency), true)],
          ],
        },
        layout: 'lightHorizontalLines',
      },
      { text: 'Received: ______________________', color: FAINT, margin: [0, 24, 0, 0] },
    ],
  };
}
