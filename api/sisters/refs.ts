import * as z from 'zod';
import { OFFER_KINDS } from '@core/sisters';
import { Id } from '../kit';
import type { Right } from '../access';

/** A company of the group, as the others see it. */
export const SisterRef = z.object({
  id: Id,
  code: z.string(),
  name: z.string(),
  currency: z.string(),
  /** Of another installation: what goes between us goes in files. */
  elsewhere: z.boolean(),
});

export const OfferKind = z.enum(OFFER_KINDS);

/** The right that each kind of offer asks for. */
export const OFFER_RIGHT: Readonly<Record<z.infer<typeof OfferKind>, Right>> = {
  order: 'orders',
  purchase: 'purchases',
  receipt: 'goods',
  invoice: 'vendor-invoices',
};
