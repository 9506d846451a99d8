import * as z from 'zod';
import { ROUTES } from '@core/catalogue';
import { Day, Decimal, DocumentRef, Id, ItemRef, ListQuery, LocationId, page, read } from './kit';

const Coming = z.object({
  quantity: Decimal,
  day: Day,
  /** A purchase, a production, assembly or planned order, or goods under way; whose it is. */
  by: DocumentRef,
  party: z.string(),
});

export const GoingRow = z.object({
  lineId: Id,
  order: DocumentRef,
  lineNo: z.number(),
  reference: z.string(),
  customer: z.object({ id: Id, name: z.string() }),
  shipTo: z.object({ id: Id, label: z.string(), town: z.string() }),
  location: z.object({ id: LocationId, name: z.string() }),
  item: ItemRef,
  /** Whether it is kept by number. // P6 */
  byNumber: z.boolean(),
  route: z.enum(ROUTES),
  shipDate: Day,
  open: Decimal,
  held: Decimal,
  /** Free at its place once those who ship before it have taken theirs. */
  free: Decimal,
  /** Held, free, or to be assembled as it goes: what can go out now. */
  now: Decimal,
  /** What comes for it in time, and what comes after its ship date. */
  coming: z.array(Coming),
  late: z.array(Coming),
  /** Not there by its ship date: late, or brought by nothing. // S9 */
  short: Decimal,
  missing: Decimal,
});

/** What is narrowed down of all that goes out. */
const Narrowed = z.object({
  /** A week from the work date where it is left out. */
  until: z.iso.date().optional(),
  customer: z.coerce.number().int().positive().optional(),
  location: z.coerce.number().int().min(0).max(4_294_967_295).optional(),
});

/** What a list to pick by is asked for: marked lines, by their ids between commas, or all. */
export const pickList = Narrowed.extend({
  lines: z
    .string()
    .max(4000)
    .regex(/^\d+(,\d+)*$/)
    .transform((ids) => ids.split(',').map(Number))
    .optional(),
});

export const listGoingOut = read({
  name: 'listGoingOut',
  path: '/going-out',
  summary:
    'Confirmed lines that leave our places up to a day, the earliest first, with what there is and comes for each.',
  query: ListQuery.omit({ q: true }).extend(Narrowed.shape),
  out: page(GoingRow),
});
