import * as z from 'zod';
import { DOCUMENT_KINDS } from '@core/kernel';
import { SERIAL_PLACES } from '@core/serial';

export type Schema = z.ZodType;

/** One endpoint of the contract: the router binds it, the client and the OpenAPI document are made from it. */
export interface Endpoint<
  Params extends Schema = Schema,
  Query extends Schema = Schema,
  Body extends Schema = Schema,
  Out extends Schema = Schema,
> {
  name: string;
  method: 'GET' | 'POST';
  /** Path below `/api`, parameters as `:name`. */
  path: string;
  summary: string;
  /** True where it can be called without being signed in. */
  open: boolean;
  /** The right it asks for; none where whoever works in the company may read it. */
  needs?: string;
  params: Params;
  query: Query;
  body: Body;
  out: Out;
}

const nothing = z.object({});

/** A read: `GET`, no body, never changes anything. */
export function read<
  Out extends Schema,
  Params extends Schema = typeof nothing,
  Query extends Schema = typeof nothing,
>(definition: {
  name: string;
  path: string;
  summary: string;
  open?: boolean;
  needs?: string;
  params?: Params;
  query?: Query;
  out: Out;
}): Endpoint<Params, Query, typeof nothing, Out> {
  return {
    method: 'GET',
    open: false,
    body: nothing,
    params: nothing as unknown as Params,
    query: nothing as unknown as Query,
    ...definition,
  };
}

/** A post that is no act: signing in and out, choosing a company. */
export function post<Body extends Schema, Out extends Schema>(definition: {
  name: string;
  path: string;
  summary: string;
  open?: boolean;
  needs?: string;
  body: Body;
  out: Out;
}): Endpoint<typeof nothing, typeof nothing, Body, Out> {
  return { method: 'POST', open: false, params: nothing, query: nothing, ...definition };
}

/** One act: `POST /acts/<name>` does it, `POST /acts/<name>/preview` shows what it would do. */
export interface ActEndpoint<Input extends Schema = Schema, Shown extends Schema = Schema> {
  name: string;
  summary: string;
  input: Input;
  /** What the preview shows of the effects. */
  preview: Shown;
}

export function act<Input extends Schema, Shown extends Schema>(
  definition: ActEndpoint<Input, Shown>,
): ActEndpoint<Input, Shown> {
  return definition;
}

export const Id = z.number().int().positive().max(4_294_967_295);
/** A location of the company; 0 is its main one. */
export const LocationId = z.number().int().min(0).max(65_535);
export const Location = z.object({ id: LocationId, code: z.string(), name: z.string() });
export const IdParam = z.object({ id: z.coerce.number().int().positive().max(4_294_967_295) });
/** Decimal text as it leaves the server. */
export const Decimal = z.string();
/** Decimal text as it left the server, and comes back to say what was seen. */
export const SeenDecimal = z.string().regex(/^-?\d{1,20}(\.\d{1,8})?$/);
/** Decimal text as typed: the act says what is wrong with it at its field. */
export const TypedDecimal = z.string().max(40);
/** A calendar date as `YYYY-MM-DD`, or as typed: the act says what is wrong with it. */
export const TypedDay = z.string().max(10).nullable();
export const Day = z.string();
/** A day as it left the server, and comes back to say what was seen. */
export const SeenDay = z.iso.date();
export const Text = (most: number) => z.string().max(most);

/** The serial numbers of pieces that move; none: those that fit, or made by the item's pattern. // P6 */
export const SerialNumbers = z.array(Text(40)).max(1000);

/** The pieces that move with an act, where they have numbers, and where each is afterwards. // P6 */
export const NumbersMoved = z.array(
  z.object({ itemId: Id, number: z.string(), place: z.enum(SERIAL_PLACES), lineId: Id.nullable() }),
);

/** What a document in another currency comes to in the company's, at the rate of its day. // P8 */
export const InOwn = z.object({
  currency: z.string(),
  rate: Decimal,
  net: Decimal,
  tax: Decimal,
  total: Decimal,
});

const LISTS_NAMED_ONCE = new WeakSet<Schema>();

/** Whether each member of that list is named once (`namedOnce`). */
export const isNamedOnce = (list: Schema) => LISTS_NAMED_ONCE.has(list);

/**
 * A list whose members each name something, by that field or by themselves: nothing is named twice in it, so that a
 * bound that holds for each holds for all. Null names nothing. Every list of an act's input is one, or it is
 * said in `server/rooms.spec.ts` why it need not be.
 */
export function namedOnce<List extends z.ZodArray>(list: List, by?: keyof z.infer<List>[number] & string): List {
  const once = list.superRefine((members, { addIssue }) => {
    const first = new Map<unknown, number>();
    members.forEach((member, at) => {
      const name = by === undefined ? member : (member as Record<string, unknown>)[by];
      const before = first.get(name);
      if (name === null || name === undefined) return;
      if (before === undefined) first.set(name, at);
      else addIssue({ code: 'custom', path: by === undefined ? [at] : [at, by], params: { first: before } });
    });
  });
  LISTS_NAMED_ONCE.add(once);
  return once;
}

export const DocumentRef = z.object({ kind: z.enum(DOCUMENT_KINDS), id: Id, number: z.string() });
/** One field that is another by now: a quantity, a price, a day (ISO 8601) or words, as it was and as it is. */
export const FieldChange = z.object({ what: z.string(), was: z.string(), is: z.string() });
/** A document in an address: its kind and id. */
export const DocumentParams = z.object({
  kind: z.enum(DOCUMENT_KINDS),
  id: z.coerce.number().int().positive().max(4_294_967_295),
});
export const Party = z.object({ id: Id, number: z.string(), name: z.string() });
export const ItemRef = z.object({ id: Id, number: z.string(), name: z.string(), unit: z.string() });
export const Address = z.object({
  id: Id,
  label: z.string(),
  street: z.string(),
  town: z.string(),
  postcode: z.string(),
  country: z.string(),
});

/** A document as an act left it: with its new version where its own content changed. */
export const TouchedRef = DocumentRef.extend({ version: z.number().int().optional() });

/** What every act answers: the documents it made, and all it changed. */
export const ActResult = z.object({
  made: z.array(TouchedRef),
  touched: z.array(TouchedRef),
  /** Nothing is done yet: it waits for a second person under this number. // G7 */
  asked: z.number().optional(),
});

/** A refusal as it travels: code and field for the program, the sentence for the person. (RFC 9457) */
export const RefusalOut = z.object({
  code: z.string(),
  field: z.string(),
  facts: z.record(z.string(), z.string()),
  sentence: z.string(),
});

export const Problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number(),
  detail: z.string(),
  /** By what name the log knows the request. */
  reference: z.string(),
  refusals: z.array(RefusalOut),
});

/** The answer of a preview: what stands against the act, what is worth a word, what it would do. */
export const preview = <Shown extends Schema>(shown: Shown) =>
  z.object({
    refusals: z.array(RefusalOut),
    warnings: z.array(RefusalOut),
    effects: shown.nullable(),
  });

export const ListQuery = z.object({
  /** Words to look for in numbers and names. */
  q: z.string().max(80).optional(),
  /** Where the page before ended. */
  cursor: z.string().max(200).optional(),
  /** Rows on a page; 100 where it is left out. */
  rows: z.coerce.number().int().min(1).max(200).optional(),
});

/** Days as a person types them, each end or both: `1/3..5/3`, `..-1`, `fri`; read against the work date. */
export const DayRange = z.string().max(40).optional();

/** A list in an order of its own: the name of a column, with `-up` or `-down` behind it where somebody chose. */
export const SortedQuery = ListQuery.extend({ sort: z.string().max(30).optional() });

export const page = <Row extends Schema>(row: Row) => z.object({ rows: z.array(row), next: z.string().nullable() });
