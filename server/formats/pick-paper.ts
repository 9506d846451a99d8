import type { Content, TableCell } from 'pdfmake/interfaces';
import type * as z from 'zod';
import { toPick } from '@core/going-out';
import { inUnits, type Day } from '@core/kernel';
import type { listGoingOut, pickList } from '@api/going-out';
import type { Sql } from '../db';
import { listGoing } from '../going-out';
import { barCode } from './bar-code';
import { day, FAINT, facts, headCell, quantity, rightCell, type Unset } from './pdf';

/** Lines on one list at most. */
const MOST_LINES = 1000;
const PAGE = 200;

/**
 * The list one picks by, place by place and item by item, with a box to tick for each line it is for: of marked lines, or of all that
 * go out up to a day. // S9
 */
export async function pickPaper(
  sql: Sql,
  companyId: number,
  workDate: Day,
  { lines, ...query }: z.output<typeof pickList>,
): Promise<Unset> {
  const rows: z.infer<typeof listGoingOut.out>['rows'] = [];
  for (let cursor: string | undefined; rows.length < MOST_LINES;) {
    const page = await listGoing(sql, companyId, workDate, { ...query, rows: PAGE, ...(cursor ? { cursor } : {}) });
    rows.push(...page.rows.filter(({ lineId }) => lines === undefined || lines.includes(lineId)));
    if (page.next === null) break;
    cursor = page.next;
  }
  const [company] = await sql.rows<{ name: string }>('SELECT name FROM company WHERE id = ?', [companyId]);
  const places = toPick(rows);
  const content = places.flatMap(({ location, items }, at): Content[] => [
    { text: company!.name, fontSize: 9, color: FAINT, ...(at > 0 ? { pageBreak: 'before' as const } : {}) },
    { text: `To pick at ${location.name}`, fontSize: 18, margin: [0, 2, 0, 8] },
    facts([
      ['Written', day(workDate)],
      ['Picked by', ''],
    ]),
    {
      table: {
        headerRows: 1,
        dontBreakRows: true,
        widths: [96, 66, '*', 70],
        body: [
          ['', headCell('Item'), headCell('For'), headCell('Pick', true)],
          ...items.map((pick): TableCell[] => [
            barCode(pick.item.number, 92) as TableCell,
            pick.item.number,
            {
              stack: [
                pick.item.name,
                ...pick.rows.map((row) => ({
                  text: `[   ]  ${quantity(row.now)} for ${row.customer.name}, ${row.order.number} line ${row.lineNo}, ${day(row.shipDate)}`,
                  fontSize: 9,
                  margin: [0, 2, 0, 0] as [number, number, number, number],
                })),
              ],
            },
            rightCell(inUnits(quantity(pick.quantity), pick.item.unit), true),
          ]),
        ],
      },
      layout: 'lightHorizontalLines',
    },
  ]);
  const nothing: Content[] = [{ text: 'Nothing of this can go out now.' }];
  return {
    number: 'To pick',
    party: places.map(({ location }) => location.name).join(', '),
    company: company!.name,
    content: content.length > 0 ? content : nothing,
  };
}
