import { addDays, type Day } from '@core/kernel';
import { answers, Ground } from '@core/promise';
import type { Database, Tx } from '../db/index';
import { openPromiseGround } from '../promise/index';
import type { Actor } from './actor';
import type { Masters } from './masters';
import {
  bomLineTable,
  centreDowntimeTable,
  centreOvertimeTable,
  holidayTable,
  itemOptionTable,
  optionGroupTable,
  optionRuleTable,
  routingOperationTable,
  workCentreTable,
} from '../catalogue/tables';

const CENTRES = [
  { code: 'ROLL', name: 'Plate rolls', machines: 1, hours: '08:00-16:00', hourCost: '42' },
  { code: 'WELD', name: 'Welding bay', machines: 2, hours: '08:00-16:00', hourCost: '54' },
  { code: 'LINE', name: 'Lining room', machines: 1, hours: '08:30-12:30; 13:00-16:30', hourCost: '48' },
  { code: 'BENCH', name: 'Assembly benches', machines: 2, hours: '08:00-16:00', hourCost: '36' },
  { code: 'TEST', name: 'Test stand', machines: 1, hours: '08:00-16:00', hourCost: '45' },
] as const;

type Operation = readonly [
  no: number,
  name: string,
  centre: (typeof CENTRES)[number]['code'],
  setup: string,
  run: string,
  parallel: number,
];

interface Making {
  obtained: 'make' | 'assemble';
  /** How an order line of it is supplied, where not from stock. */
  route?: 'make' | 'assemble';
  /** Where it is not promised by what could be made. */
  method?: 'atp';
  safety?: string;
  multiple?: string;
  /** Components: item, quantity, the operation they are needed at, scrap per cent. */
  of: readonly (readonly [item: string, quantity: string, at: number, scrap?: string])[];
  operations: readonly Operation[];
}

/** What is made, of what, and how. // T4 */
const MADE: Readonly<Record<string, Making>> = {
  'SK-D2': {
    obtained: 'assemble',
    route: 'assemble',
    of: [
      ['SK-FRAME', '1', 10],
      ['PM-15', '2', 10],
      ['SK-PANEL', '1', 20],
      ['TUBE-12', '6', 20, '5'],
    ],
    operations: [
      [10, 'Mount pumps', 'BENCH', '20', '90', 2],
      [20, 'Wire and tube', 'BENCH', '15', '75', 2],
      [30, 'Wet test', 'TEST', '15', '45', 1],
    ],
  },
  'SK-D4': {
    obtained: 'assemble',
    route: 'assemble',
    of: [
      ['SK-FRAME', '1', 10],
      ['PM-15', '4', 10],
      ['SK-PANEL', '1', 20],
      ['TUBE-12', '10', 20, '5'],
    ],
    operations: [
      [10, 'Mount pumps', 'BENCH', '20', '120', 2],
      [20, 'Wire and tube', 'BENCH', '15', '100', 2],
      [30, 'Wet test', 'TEST', '15', '60', 1],
    ],
  },
  'FV-900': {
    obtained: 'make',
    route: 'make',
    of: [
      ['FV-SHELL9', '1', 10],
      ['FV-HEAD', '2', 10],
      ['FV-NOZZLE', '4', 10],
    ],
    operations: [
      [10, 'Weld', 'WELD', '30', '240', 2],
      [20, 'Line', 'LINE', '45', '120', 1],
      [30, 'Pressure test', 'TEST', '15', '60', 1],
    ],
  },
  'FV-1200': {
    obtained: 'make',
    route: 'make',
    of: [
      ['FV-SHELL12', '1', 10],
      ['FV-HEAD', '2', 10],
      ['FV-NOZZLE', '6', 10],
    ],
    operations: [
      [10, 'Weld', 'WELD', '30', '330', 2],
      [20, 'Line', 'LINE', '45', '160', 1],
      [30, 'Pressure test', 'TEST', '15', '75', 1],
    ],
  },
  'FV-SHELL9': { obtained: 'make', of: [['PLATE-8', '1', 10, '4']], operations: [[10, 'Roll', 'ROLL', '40', '70', 1]] },
  'FV-SHELL12': {
    obtained: 'make',
    of: [['PLATE-8', '2', 10, '4']],
    operations: [[10, 'Roll', 'ROLL', '40', '95', 1]],
  },
  'UV-40': {
    obtained: 'assemble',
    method: 'atp',
    safety: '2',
    multiple: '4',
    of: [
      ['UV-HOUSING', '1', 10],
      ['UV-LAMP', '2', 10],
    ],
    operations: [[10, 'Assemble', 'BENCH', '10', '40', 2]],
  },
};

/** What may be chosen for what is assembled: instead of a component or besides, at what on the price. // W2 */
const CHOICES: Readonly<Record<string, readonly Choice[]>> = {
  'SK-D2': [
    { name: 'Pumps', instead: 'PM-15', most: 1, of: [['PM-30', '2', '1280']] },
    { name: 'Panel', instead: 'SK-PANEL', most: 1, of: [['SK-PANEL-R', '1', '660']] },
    {
      name: 'Besides',
      most: 2,
      of: [
        ['SK-TRAY', '1', '240', 10],
        ['SK-COVER', '1', '390', 30],
      ],
    },
  ],
  'SK-D4': [{ name: 'Panel', instead: 'SK-PANEL', most: 1, of: [['SK-PANEL-R', '1', '660']] }],
};

/** The larger pumps go only with the panel for them, and the cover does not go over the tray. */
const TOGETHER = [
  ['SK-D2', 'PM-30', 'needs', 'SK-PANEL-R'],
  ['SK-D2', 'SK-COVER', 'excludes', 'SK-TRAY'],
] as const;

interface Choice {
  name: string;
  /** The component that stays out for it. */
  instead?: string;
  most: number;
  /** Components: item, quantity, on the price, the operation they are needed at. */
  of: readonly (readonly [item: string, quantity: string, price: string, at?: number])[];
}

/** Holidays by days from the work date. */
const HOLIDAYS = [
  { after: 9, name: 'Harvest day' },
  { after: 45, name: 'Spring day' },
] as const;

/** Work centres and when one stands still, holidays, BOMs and routings, and how each item is obtained. */
export function layWorks(database: Database, masters: Masters, day: Day): Promise<void> {
  const { companyId } = masters;
  const idOf = (number: string) => masters.items.get(number)!.id;
  return database.transaction(async (tx) => {
    const [calendar] = await tx.rows<{ id: number }>('SELECT calendar_id AS id FROM company WHERE id = ?', [companyId]);
    await tx.insertPlain(
      holidayTable,
      HOLIDAYS.map(({ after, name }) => ({
        companyId,
        calendarId: calendar!.id,
        day: addDays(day, after),
        name,
      })),
    );
    await tx.run('UPDATE company SET receiving_days = 1 WHERE id = ?', [companyId]);
    const centres = await tx.insert(
      workCentreTable,
      CENTRES.map(({ code, name, machines, hours, hourCost }) => ({
        companyId,
        code,
        name,
        machines,
        hours,
        hourCost,
        calendarId: calendar!.id,
      })),
    );
    await tx.insertPlain(centreDowntimeTable, [
      {
        companyId,
        workCentreId: centres[CENTRES.findIndex(({ code }) => code === 'TEST')]!,
        firstDay: addDays(day, 66),
        lastDay: addDays(day, 67),
        machines: 1,
        why: 'Yearly calibration',
      },
    ]);
    await tx.insertPlain(centreOvertimeTable, [
      {
        companyId,
        workCentreId: centres[CENTRES.findIndex(({ code }) => code === 'BENCH')]!,
        firstDay: addDays(day, 68),
        lastDay: addDays(day, 68),
        hours: '08:00-12:00',
        why: 'After the calibration',
      },
    ]);
    const centreOf = new Map(CENTRES.map(({ code }, index) => [code as string, centres[index]!]));
    for (const [number, making] of Object.entries(MADE)) {
      await tx.run(
        `UPDATE item SET obtained = ?, route = COALESCE(?, route), promise_method = ?, safety_stock = ?, lot_multiple = ?
          WHERE company_id = ? AND id = ?`,
        [
          making.obtained,
          making.route ?? null,
          making.method ?? 'ctp',
          making.safety ?? '0',
          making.multiple ?? '0',
          companyId,
          idOf(number),
        ],
      );
      await tx.insertPlain(
        bomLineTable,
        making.of.map(([item, quantity, at, scrap], index) => ({
          companyId,
          itemId: idOf(number),
          lineNo: index + 1,
          componentId: idOf(item),
          quantity,
          scrapPercent: scrap ?? '0',
          operationNo: at,
        })),
      );
      await tx.insertPlain(
        routingOperationTable,
        making.operations.map(([no, name, centre, setup, run, parallel]) => ({
          companyId,
          itemId: idOf(number),
          no,
          name,
          workCentreId: centreOf.get(centre)!,
          setupMinutes: setup,
          runMinutes: run,
          parallel,
        })),
      );
    }
    await layChoices(tx, companyId, idOf);
  });
}

async function layChoices(tx: Tx, companyId: number, idOf: (number: string) => number): Promise<void> {
  const optionIds = new Map<string, number>();
  for (const [item, choices] of Object.entries(CHOICES)) {
    for (const { name, instead, most, of } of choices) {
      const replacesId = instead === undefined ? null : idOf(instead);
      const [groupId] = await tx.insert(optionGroupTable, [
        { companyId, itemId: idOf(item), name, replacesId, atLeast: 0, atMost: most },
      ]);
      const ids = await tx.insert(
        itemOptionTable,
        of.map(([component, quantity, price, operationNo]) => ({
          companyId,
          groupId: groupId!,
          componentId: idOf(component),
          quantity,
          price,
          operationNo: operationNo ?? null,
        })),
      );
      of.forEach(([component], at) => optionIds.set(`${item} ${component}`, ids[at]!));
    }
  }
  await tx.insertPlain(
    optionRuleTable,
    TOGETHER.map(([item, option, kind, other]) => ({
      companyId,
      optionId: optionIds.get(`${item} ${option}`)!,
      kind,
      otherId: optionIds.get(`${item} ${other}`)!,
    })),
  );
}

interface Wished {
  customer: string;
  reference: string;
  item: string;
  quantity: string;
  /** Days from the work date. */
  asked: number;
  /** Promised as computed, or left to be promised. */
  promised: boolean;
}

const WISHES: readonly Wished[] = [
  { customer: 'Kasturi Bottling', reference: 'KB-2210', item: 'FV-900', quantity: '3', asked: 14, promised: true },
  { customer: 'Bukit Jati Golf Links', reference: 'BJ-71', item: 'SK-D2', quantity: '2', asked: 21, promised: true },
  { customer: 'Nilam Dialysis Centre', reference: 'ND-905', item: 'FV-1200', quantity: '2', asked: 12, promised: true },
  { customer: 'Kolam Ceria Swim Club', reference: 'KC-33', item: 'UV-40', quantity: '5', asked: 8, promised: false },
  { customer: 'Padi Emas Food Works', reference: 'PE-480', item: 'SK-D4', quantity: '9', asked: 10, promised: false },
];

/** Orders of what is made: some promised with all that is planned for them, some that wait for a promise. // T8 */
export async function promiseWorks(database: Database, actor: Actor, masters: Masters, workDate: Day): Promise<void> {
  for (const wish of WISHES) {
    const { id: customerId, shipTos } = masters.customers.get(wish.customer)!;
    const asked = addDays(workDate, wish.asked);
    const [orderId] = await actor.does(
      'saveOrder',
      {
        id: null,
        version: null,
        customerId,
        shipToId: shipTos[0],
        customerReference: wish.reference,
        lines: [
          {
            id: null,
            itemId: masters.items.get(wish.item)!.id,
            quantity: wish.quantity,
            shipDate: asked,
            route: 'stock',
            agreementLineId: null,
          },
        ],
      },
      workDate,
    );
    await actor.does('confirmOrder', { id: orderId, version: 1 }, workDate);
    if (!wish.promised) continue;
    const { order, rows, lines } = await openPromiseGround(database, masters.companyId, workDate, orderId!);
    const asks = lines.map((line) => ({ key: String(line.id), itemId: line.item.id, quantity: line.quantity, asked }));
    const found = answers(new Ground(rows), asks, () => 'have');
    await actor.does(
      'acceptPromise',
      {
        orderId,
        version: order.version,
        lines: lines.map((line, index) => ({
          lineId: line.id,
          way: 'have',
          asked,
          day: addDays(workDate, found[index]!.day!),
        })),
      },
      workDate,
    );
  }
}
