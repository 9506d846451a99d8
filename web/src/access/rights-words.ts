import { RIGHTS, type Right } from '@api/access';

/** What each right lets somebody do, as a grid of rights says it; by what it is about. */
export const RIGHT_GROUPS: readonly { about: string; rights: readonly [right: Right, words: string][] }[] = [
  {
    about: 'Selling',
    rights: [
      ['agreements', 'agreements'],
      ['orders', 'orders'],
      ['credit', 'let orders over a credit limit'],
      ['promotions', 'promotions and support'],
      ['counter', 'counter and till'],
    ],
  },
  {
    about: 'Supply',
    rights: [
      ['purchases', 'purchases'],
      ['goods', 'receive, ship, move goods'],
      ['plan', 'plan'],
      ['work', 'report work'],
    ],
  },
  {
    about: 'Money',
    rights: [
      ['customer-invoices', 'invoice customers'],
      ['vendor-invoices', 'enter vendor invoices'],
      ['payments', 'payments'],
      ['commission', 'commission of all'],
      ['periods', 'close months'],
    ],
  },
  {
    about: 'See',
    rights: [
      ['see-costs', 'costs and margins'],
      ['see-debts', 'who owes what'],
      ['see-agreements', 'agreements'],
      ['see-mail', 'what was sent'],
    ],
  },
  {
    about: 'Out of the house',
    rights: [
      ['send', 'send documents'],
      ['write-to-others', 'send to other addresses'],
      ['export', 'take files along'],
    ],
  },
  {
    about: 'The company itself',
    rights: [
      ['lists', 'keep items, customers, prices'],
      ['approve', 'approve as a second person'],
      ['people', 'keep people and rights'],
      ['upkeep', 'accounts, taxes, upkeep'],
      ['companies', 'make further companies'],
      ['work-date', 'move the work date of a demo'],
    ],
  },
];

/** Rights a grid does not name, were there any. */
export const UNNAMED: readonly Right[] = RIGHTS.filter(
  (right) => !RIGHT_GROUPS.some(({ rights }) => rights.some(([each]) => each === right)),
);

/** A word nobody guesses, and the hash of it that is sent. */
export async function newWord(): Promise<{ word: string; hash: string }> {
  const bytes = crypto.getRandomValues(new Uint8Array(24));
  const word = btoa(String.fromCharCode(...bytes))
    .replaceAll('+', '-')
    .replaceAll('/', '_');
  const digest = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(word));
  const hash = [...new Uint8Array(digest)].map((byte) => byte.toString(16).padStart(2, '0')).join('');
  return { word, hash };
}
