import type { Right } from '@api/access';
import type { IconName } from '../kit/controls/icon';

/** The spine, in the order of the work; Alt and its number goes there, Alt 0 to the tenth. */
export const PLACES: readonly {
  path: string;
  name: string;
  icon: IconName;
  needs?: Right;
  sisters?: true;
  unnumbered?: true;
}[] = [
  { path: '/today', name: 'Today', icon: 'today' },
  { path: '/agreements', name: 'Agreements', icon: 'handshake', needs: 'see-agreements' },
  { path: '/orders', name: 'Orders', icon: 'orders' },
  { path: '/counter', name: 'Counter', icon: 'counter', needs: 'counter', unnumbered: true },
  { path: '/bench', name: 'Bench', icon: 'bench' },
  { path: '/purchases', name: 'Purchases', icon: 'truck' },
  { path: '/workshop', name: 'Workshop', icon: 'workshop' },
  { path: '/to-go-out', name: 'To go out', icon: 'outward' },
  { path: '/stock', name: 'Stock', icon: 'stock' },
  { path: '/tray', name: 'Tray', icon: 'tray', sisters: true, unnumbered: true },
  { path: '/billing', name: 'Billing', icon: 'billing', needs: 'see-debts' },
  { path: '/insight', name: 'Insight', icon: 'insight', needs: 'see-agreements' },
];

/** Those with a number: the counter and the tray are not everybody's, and would move those after them. */
export const NUMBERED = PLACES.filter(({ unnumbered }) => !unnumbered);

/** Apart at the foot of the spine: what the rest is made from. */
export const SETUP: (typeof PLACES)[number] = { path: '/lists', name: 'Lists', icon: 'lists' };

/** What can be done by name from the find-or-do box. */
export const DOINGS: readonly { name: string; path: string }[] = [
  { name: 'New agreement', path: '/agreements/new' },
  { name: 'New sales order', path: '/orders/new' },
  { name: 'Standing orders', path: '/standing-orders' },
  { name: 'New standing order', path: '/standing-orders?do=new' },
  { name: 'Promotions and what they brought', path: '/promotions' },
  { name: 'New promotion', path: '/promotions?do=new' },
  { name: 'Support by vendors: what they owe us for what we sell', path: '/support' },
  { name: 'Claims on vendors', path: '/claims' },
  { name: 'Commission: what is earned, and statements', path: '/commission' },
  { name: 'Keep commission rates', path: '/lists?list=commission-rates' },
  { name: 'Keep an order at the counter', path: '/counter' },
  { name: 'Sell at the till', path: '/till' },
  { name: 'Drawers: count and close', path: '/drawers' },
  { name: 'Slips of the tills', path: '/slips' },
  { name: 'Place purchases on the bench', path: '/bench' },
  { name: 'Ties between orders and purchases', path: '/ties' },
  { name: 'Ties that are out of step', path: '/ties?show=differs' },
  { name: 'New purchase order', path: '/purchases?do=enter' },
  { name: 'Invoice what was shipped', path: '/today' },
  { name: 'Vendor invoices', path: '/billing?side=vendor' },
  { name: 'Credit notes', path: '/credit-notes' },
  { name: 'Prepayments', path: '/prepayments' },
  { name: 'Owed by age, and reminders', path: '/open-by-age' },
  { name: 'What we owe vendors, by age', path: '/open-by-age?side=vendor' },
  { name: 'Accounts and their balances', path: '/accounts' },
  { name: 'Orders that are late', path: '/orders?show=late' },
  { name: 'Purchases that are late', path: '/purchases?show=late' },
  { name: 'Months: close and open again', path: '/months' },
  { name: 'Upkeep: checks, copies, who came and went', path: '/upkeep' },
  { name: 'Agreements past their last day', path: '/agreements?dates=passed' },
  { name: 'Agreements that are used up', path: '/agreements?left=used-up' },
  { name: 'Promise all open lines again', path: '/repromise' },
  { name: 'Plan ahead: what will be wanting', path: '/planning' },
  { name: 'Load of the work centres', path: '/load' },
  { name: 'What is made and assembled', path: '/workshop' },
  { name: 'Ship what goes out', path: '/to-go-out' },
  { name: 'Rounds and their runs', path: '/rounds' },
  { name: 'What is short', path: '/to-go-out?days=all' },
  { name: 'Count stock', path: '/counts' },
  { name: 'What came back from sister companies', path: '/tray?show=returned' },
  { name: 'Sister companies: pairs and prices', path: '/sisters' },
  { name: 'Work to begin', path: '/workshop?state=waiting' },
  { name: 'The workshop by day', path: '/workshop/days' },
  { name: 'At the bench: report work', path: '/workshop/at' },
  { name: 'Keep bills of materials', path: '/lists?list=boms' },
  { name: 'Keep routings', path: '/lists?list=routings' },
  { name: 'Keep work centres', path: '/lists?list=work-centres' },
  { name: 'Keep the locations of our goods', path: '/lists?list=locations' },
  { name: 'Keep overtime', path: '/lists?list=overtime' },
  { name: 'Keep machines that are out', path: '/lists?list=machines-out' },
  { name: 'Keep holidays', path: '/lists?list=holidays' },
  { name: 'Keep how items are obtained and promised', path: '/lists?list=obtaining' },
  { name: 'Mail room: what was sent', path: '/mail' },
  { name: 'Messages to be sent', path: '/mail/drafts' },
  { name: 'Our letterhead and logo', path: '/letterhead' },
  { name: 'Addresses and tax numbers of customers on paper', path: '/lists?list=customer-papers' },
  { name: 'Opening stock', path: '/opening/stock' },
  { name: 'Opening: what customers owed before', path: '/opening/customers' },
  { name: 'Opening: what vendors were owed before', path: '/opening/vendors' },
  { name: 'Opening: what was taken of agreements before', path: '/opening/agreements' },
  { name: 'The trail: who changed what, and when', path: '/trail' },
  { name: 'People: who works here, roles and rights, invitations, tokens', path: '/people' },
  { name: 'Your password, second factor, sessions', path: '/own' },
  { name: 'Another company in this installation', path: '/companies/new' },
  { name: 'Bring in items, customers, prices and more from files', path: '/bring-in' },
  { name: 'New customer', path: '/kept/customer/new' },
  { name: 'New item', path: '/kept/item/new' },
  { name: 'New vendor', path: '/kept/vendor/new' },
  { name: 'Keep customers', path: '/lists?list=customers' },
  { name: 'Keep items', path: '/lists?list=items' },
  { name: 'Keep vendors', path: '/lists?list=vendors' },
  { name: 'Keep addresses of customers', path: '/lists?list=ship-tos' },
  { name: 'Keep tax codes', path: '/lists?list=tax-codes' },
  { name: 'Keep payment terms', path: '/lists?list=terms' },
  { name: 'Keep prices', path: '/lists?list=prices' },
  { name: 'Keep invoice allowances', path: '/lists?list=allowances' },
  { name: 'Keep units of items', path: '/lists?list=units' },
  { name: 'Keep credit limits and price groups of customers', path: '/lists?list=customers' },
  { name: 'Keep tills', path: '/lists?list=tills' },
  { name: 'Keep bar codes of items', path: '/lists?list=bar-codes' },
  { name: 'Keep permits', path: '/lists?list=permits' },
  { name: 'Keep what vendors sell', path: '/lists?list=vendor-items' },
  { name: 'Keep approved vendors', path: '/lists?list=approvals' },
  { name: 'Fulfilment by sales organisation', path: '/insight?by=organisation' },
  ...PLACES.map((place) => ({ name: `Go to ${place.name}`, path: place.path })),
];

export const KEYS: readonly [keys: string, does: string][] = [
  ['Ctrl K', 'find or do'],
  ['Alt 1 … Alt 9, Alt 0', 'the places of the spine'],
  ['Ctrl Enter', 'the next step of the page, or the act of the side sheet'],
  ['Alt G', 'to the grid'],
  ['Enter', 'open the row, or edit the cell; on a line of an order, to its purchase, and back'],
  ['Tab', 'the next cell or field'],
  ['Ctrl D', 'copy the cell above'],
  ['Ctrl Delete', 'remove the row'],
  ['Ctrl V', 'paste cells from a spreadsheet'],
  ['Escape', 'leave a side sheet or an edit'],
  ['?', 'these keys'],
];
