import type { Content, TableCell } from 'pdfmake/interfaces';
import { dec, inUnits, type Day } from '@core/kernel';
import type { Sql } from '../db';
import { runSheet } from '../rounds';
import { barCode } from './bar-code';
import { day, FAINT, facts, headCell, quantity, rightCell, type Unset } from './pdf';

/** What the driver takes along: the stops in their order, what is for each, with a place to sign. // S11 */
export async function runPaper(
  sql: Sql,
  companyId: number,
  workDate: Day,
  asked: { id: number; day: Day },
): Promise<Unset> {
  const run = await runSheet(sql, companyId, workDate, asked);
  const [company] = await sql.rows<{ name: string }>('SELECT name FROM company WHERE id = ?', [companyId]);
  const over = [
    dec(run.overWeight).gt(0) ? `${quantity(run.overWeight)} kg too heavy` : '',
    dec(run.overVolume).gt(0) ? `${quantity(run.overVolume)} m³ too large` : '',
  ].filter(Boolean);
  return {
    number: `${run.round.name}, ${day(run.day)}`,
    party: run.round.vehicle,
    company: company!.name,
    content: [
      { text: company!.name, fontSize: 9, color: FAINT },
      { text: `${run.round.name}, ${day(run.day)}`, fontSize: 18, margin: [0, 2, 0, 8] },
      facts([
        ['Vehicle', run.round.vehicle || '-'],
        [
          'Weight, volume',
          `${quantity(run.weight)} kg, ${quantity(run.volume)} m³${over.length > 0 ? ` (${over.join(', ')})` : ''}`,
        ],
        ['Driver', ''],
      ]),
      ...run.stops.map((stop): Content => ({
        margin: [0, 0, 0, 12],
        table: {
          headerRows: 1,
          keepWithHeaderRows: 1,
          dontBreakRows: true,
          widths: [96, '*', 80],
          body: [
            [
              headCell(`Stop ${stop.stopNo}`),
              headCell(`${stop.customer.name}, ${stop.label}, ${stop.town}`),
              headCell(`${quantity(stop.weight)} kg`, true),
            ],
            ...stop.lines.map((line): TableCell[] => [
              barCode(line.order.number, 90) as TableCell,
              `${line.item.number} ${line.item.name}, ${line.order.number} line ${line.lineNo}${line.reference ? `, ${line.reference}` : ''}`,
              rightCell(inUnits(quantity(line.loaded === '0' ? line.now : line.loaded), line.item.unit), true),
            ]),
            ['', { text: 'Received: ______________________', color: FAINT, margin: [0, 6, 0, 0] }, ''],
          ],
        },
        layout: 'lightHorizontalLines',
      })),
    ],
  };
}
