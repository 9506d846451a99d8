import { dec } from '@core/kernel';
import { shippable, unmade } from './order-columns';
import type { OrderSheet } from './service';

export type OrderStep = 'confirm' | 'place' | 'make' | 'ship' | 'invoice' | 'none';

/** The one act that moves the order on, and how its button reads. */
export function nextStepOf(sheet: OrderSheet): { step: OrderStep; label: string } {
  const { lines } = sheet;
  if (sheet.state === 'draft') return { step: 'confirm', label: 'Confirm' };
  if (sheet.state !== 'confirmed') return { step: 'none', label: '' };
  const toPlace = lines.filter((line) => line.needsPurchase).length;
  if (toPlace > 0) {
    return { step: 'place', label: toPlace === 1 ? 'Place the purchase…' : `Place ${toPlace} purchases…` };
  }
  if (lines.some((line) => unmade(line).gt(0))) return { step: 'make', label: 'Make what it needs' };
  if (lines.some((line) => dec(line.shipped).gt(line.invoiced))) {
    return { step: 'invoice', label: 'Invoice what went out…' };
  }
  if (lines.some((line) => shippable(line).gt(0))) {
    return { step: 'ship', label: 'Ship…' };
  }
  return { step: 'none', label: '' };
}
