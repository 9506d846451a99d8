import type { WorkComponent, WorkGround, WorkOperation, WorkOrder, WorkTie } from './work-order';

/** An order of four skids of two pumps and some tube each, through two operations, on the books of examples. */
export const workOrder = (change: Partial<WorkOrder> = {}): WorkOrder => ({
  id: 7,
  number: 'AS-7',
  kind: 'assemble',
  state: 'firm',
  itemId: 1,
  item: 'SK-D2',
  whole: true,
  locationId: 0,
  place: 'Main store',
  quantity: '4',
  finished: '0',
  scrapped: '0',
  heldForParent: '0',
  plannedCost: null,
  inWork: '0',
  ...change,
});

export const component = (change: Partial<WorkComponent> = {}): WorkComponent => ({
  id: 21,
  itemId: 2,
  item: 'PM-15',
  whole: true,
  operationNo: 10,
  quantity: '8',
  used: '0',
  reported: false,
  covered: '0',
  plannedCost: '0',
  expectedCost: '10',
  there: { onHand: '100', reserved: '0', value: '1000' },
  ...change,
});

export const operation = (change: Partial<WorkOperation> = {}): WorkOperation => ({
  id: 31,
  no: 10,
  name: 'Mount',
  minutes: 80,
  minutesDone: 0,
  done: '0',
  scrapped: '0',
  plannedCost: '0',
  hourCost: '30',
  ...change,
});

export const workTie = (change: Partial<WorkTie> = {}): WorkTie => ({
  orderLineId: 41,
  order: { id: 4, number: 'SO-4' },
  lineNo: 1,
  shipDate: '2027-03-10',
  quantity: '2',
  made: '0',
  wanted: '2',
  ...change,
});

export const ground = (change: Partial<WorkGround> = {}): WorkGround => ({
  order: workOrder(),
  components: [
    component(),
    component({ id: 22, itemId: 3, item: 'TUBE', whole: false, operationNo: 20, quantity: '25.2', expectedCost: '2' }),
  ],
  operations: [operation(), operation({ id: 32, no: 20, name: 'Wire', minutes: 40, hourCost: '60' })],
  ties: [],
  parents: [],
  product: { onHand: '0', reserved: '0', value: '0' },
  currency: 'MYR',
  ...change,
});
