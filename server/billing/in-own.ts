import type * as z from 'zod';
import { dec } from '@core/kernel';
import type { InOwn } from '@api/kit';

/** What a document comes to in the company's currency; null where it is in that. // P8 */
export function inOwn(
  { currency, own }: { currency: string; own: string },
  rate: string,
  { net, tax }: { net: string; tax: string },
): z.infer<typeof InOwn> | null {
  if (currency === own) return null;
  return { currency: own, rate, net, tax, total: dec(net).plus(tax).toFixed() };
}
