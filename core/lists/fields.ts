import type { DecimalKind } from '@core/kernel';

/** What a cell names: it is typed as a number or a name, and kept as what it stands for. */
export const TARGETS = [
  'item',
  'customer',
  'vendor',
  'price-group',
  'series',
  'permit-type',
  'item-group',
  'currency',
  'other-currency',
  'calendar',
  'work-centre',
  'contact',
  'person',
  'location',
  'option-group',
  'option',
  'tax-code',
  'terms',
  'organisation',
  'iso-currency',
  'time-zone',
  'revenue-account',
  'cost-account',
] as const;
export type Target = (typeof TARGETS)[number];

/** One column of a kept list. Every cell is text; what it must be is said here. */
export interface ListField {
  name: string;
  head: string;
  /** As a sentence names it: `The price`. */
  says: string;
  /** Pixels; a column without a width shares what is left. */
  width?: number;
  /** Shown and never changed here. */
  fixed?: true;
  /** Said where a row is made, and never another afterwards: what was written with it holds on to it. */
  onlyNew?: true;
  /** Empty is refused. */
  needed?: true;
  /** Empty is the first there is of what it names. */
  orFirst?: true;
  is:
    | { kind: 'text'; most: number }
    | {
        kind: 'number';
        of: DecimalKind;
        /** What it must be above; `anything` for one that may be below zero. */
        above: 'zero' | 'below-zero' | 'anything';
        /** What it is kept as where nothing is typed; none where it is missing. */
        empty?: string;
        /** Exclusive. */
        below?: string;
        whole?: true;
      }
    | { kind: 'day' }
    /** A bar code of the GS1 system. // C7 */
    | { kind: 'gtin' }
    /** Hours of work, by weekday where they differ. */
    | { kind: 'hours' }
    | { kind: 'choice'; options: readonly { value: string; label: string }[] }
    | { kind: 'ref'; to: Target };
}

/** What is known by more than one list: its own row, and the rows of other lists that are about it. */
export const THINGS = ['item', 'customer', 'vendor'] as const;
export type Thing = (typeof THINGS)[number];

/** A list of rows that people keep: what prices, promises and checks are made from. */
export interface KeptList {
  name: string;
  label: string;
  /** What it is for, in a sentence. */
  sub: string;
  fields: readonly ListField[];
  /** Two rows never agree in all fields of one of these; the first tells rows apart. */
  keys: readonly (readonly string[])[];
  /** The field of all keys that rows are looked up by, what it names or its text; null for lists that are short. */
  within: string | null;
  /** Rows are added and removed; else only changed. */
  grows: boolean;
  /** Those added last are shown last, though rows are added. */
  inOrder?: true;
  /** Its rows are such things themselves, and not only of them. */
  of?: Thing;
  /** Who keeps it, where that is not who keeps all the others: the right they have. */
  keptBy?: 'payments' | 'upkeep' | 'commission' | 'people';
}

/** The cells of a row, by field; what was not typed is empty. */
export type Cells = Readonly<Record<string, string>>;

/** What is kept of a cell: text (numbers in plain decimals, days as YYYY-MM-DD), the id it names, or nothing. */
export type Kept = string | number | null;

const YES_NO = [
  { value: 'no', label: 'no' },
  { value: 'yes', label: 'yes' },
] as const;

export const text = (most: number): ListField['is'] => ({ kind: 'text', most });
export const ref = (to: Target): ListField['is'] => ({ kind: 'ref', to });
export const day: ListField['is'] = { kind: 'day' };
export const hours: ListField['is'] = { kind: 'hours' };
export const flag: ListField['is'] = { kind: 'choice', options: YES_NO };
export const choice = (...options: readonly (readonly [value: string, label: string])[]): ListField['is'] => ({
  kind: 'choice',
  options: options.map(([value, label]) => ({ value, label })),
});
type Numbered = Extract<ListField['is'], { kind: 'number' }>;
export const positive = (of: DecimalKind, more: Partial<Numbered> = {}): Numbered => ({
  kind: 'number',
  of,
  above: 'zero',
  ...more,
});
export const counted = (of: DecimalKind, more: Partial<Numbered> = {}): Numbered => ({
  kind: 'number',
  of,
  above: 'below-zero',
  empty: '0',
  ...more,
});

/** Lists that are shown together. */
export interface ListRoom {
  label: string;
  lists: readonly KeptList[];
}
