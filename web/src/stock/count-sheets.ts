import type * as z from 'zod';
import * as contract from '@api/stock';
import type { AsksReason } from '../kit/act/reason-sheet';
import { counted, money } from '../kit/formats';

type Count = z.infer<typeof contract.openCount.out>;

const worth = (cost: string, currency: string) =>
  cost === '' ? '' : `${currency} ${money(cost.replace('-', ''), currency)} ${cost.startsWith('-') ? 'less' : 'more'}`;

/** What a count comes to, before it is posted. // W6 */
export const postingOf = ({ document, version }: Count): AsksReason<typeof contract.postCount> => ({
  head: `Post ${document.number}`,
  sub: 'Each difference goes to stock differences, in one journal',
  act: 'Post it',
  of: contract.postCount,
  input: (reason) => ({ countId: document.id, version, reason }),
  effect: ({ lines, cost, currency }) => {
    const off = lines.filter(({ difference }) => difference !== '0').length;
    if (off === 0) return 'All of it is as it was known';
    return [counted(off, 'difference'), worth(cost, currency)].filter(Boolean).join(', ');
  },
});

/** Takes a posted count back. // P1 */
export const takingBackOf = ({ document }: Count): AsksReason<typeof contract.takeBackCount> => ({
  head: `Take ${document.number} back`,
  sub: 'By a count of its own that names it',
  act: 'Take it back',
  of: contract.takeBackCount,
  input: (reason) => ({ countId: document.id, reason }),
  effect: ({ cost, currency }) => (cost === '' ? '' : `Stock is worth ${worth(cost, currency)}`),
});
