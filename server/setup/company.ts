import { DOCUMENT_KINDS } from '@core/kernel';
import type { AccountRole } from '@core/ledger';
import { RIGHTS, type Right } from '@api/access';
import { hashPassword } from '../access';
import type { Tx } from '../db';
import { personRoleTable, personTable, roleTable } from '../access/tables';
import { numberSeriesTable } from '../acts/tables';
import { calendarTable } from '../catalogue/tables';
import { accountTable } from '../ledger/tables';
import { listTurnTable } from '../lists/tables';
import { promiseTurnTable } from '../promise/tables';
import { companyTable } from './tables';

/** The chart a company begins with: one account for each thing it posts by itself. */
const CHART: readonly { code: string; name: string; role: AccountRole }[] = [
  { code: '1000', name: 'Bank', role: 'bank' },
  { code: '1010', name: 'Cash in drawers', role: 'cash-drawer' },
  { code: '1020', name: 'Card payments under way', role: 'card-clearing' },
  { code: '1100', name: 'Accounts receivable', role: 'receivable' },
  { code: '1200', name: 'Inventory', role: 'inventory' },
  { code: '1250', name: 'Work in progress', role: 'work-in-progress' },
  { code: '1300', name: 'Claims on vendors', role: 'claims-owed' },
  { code: '1400', name: 'Input tax', role: 'input-tax' },
  { code: '2000', name: 'Accounts payable', role: 'payable' },
  { code: '2100', name: 'Received not invoiced', role: 'received-not-invoiced' },
  { code: '2200', name: 'Output tax', role: 'output-tax' },
  { code: '2300', name: 'Rebates owed', role: 'rebates-owed' },
  { code: '2400', name: 'Customer prepayments', role: 'customer-prepayments' },
  { code: '2500', name: 'Commission owed', role: 'commission-owed' },
  { code: '4000', name: 'Revenue', role: 'revenue' },
  { code: '4100', name: 'Rebates given', role: 'rebates-given' },
  { code: '5000', name: 'Cost of sales', role: 'cost-of-sales' },
  { code: '5100', name: 'Price difference', role: 'price-difference' },
  { code: '5110', name: 'Support by vendors', role: 'support-earned' },
  { code: '5200', name: 'Stock differences', role: 'stock-difference' },
  { code: '5300', name: 'Exchange differences', role: 'exchange-difference' },
  { code: '5400', name: 'Labour absorbed', role: 'labour-absorbed' },
  { code: '5410', name: 'Scrap', role: 'scrap' },
  { code: '5420', name: 'Production variance', role: 'production-variance' },
  { code: '6200', name: 'Commission', role: 'commission' },
  { code: '6910', name: 'Cash rounding', role: 'cash-rounding' },
  { code: '6920', name: 'Differences of drawers', role: 'drawer-difference' },
];

const SEES_BUYING = ['see-costs', 'see-agreements', 'see-mail'] as const;
const SEES_ALL = [...SEES_BUYING, 'see-debts', 'write-to-others'] as const;

/** The roles a company begins with. */
export const ROLES: Record<string, readonly Right[]> = {
  'Order administrator': RIGHTS.filter((right) => right !== 'credit' && right !== 'periods'),
  Buyer: [...SEES_BUYING, 'purchases', 'promotions', 'goods', 'approve', 'send', 'work-date'],
  'Stock keeper': ['goods', 'work', 'send', 'work-date'],
  'Accounts clerk': [
    ...SEES_ALL,
    'customer-invoices',
    'vendor-invoices',
    'payments',
    'commission',
    'counter',
    'periods',
    'approve',
    'send',
    'work-date',
  ],
  Planner: [...SEES_BUYING, 'orders', 'purchases', 'plan', 'work', 'lists', 'send', 'work-date'],
  Workshop: ['work', 'work-date'],
  'Counter clerk': ['counter', 'work-date'],
  'Sales person': ['see-agreements', 'work-date'],
  'Sales manager': [
    ...SEES_ALL,
    'agreements',
    'orders',
    'promotions',
    'commission',
    'counter',
    'credit',
    'approve',
    'upkeep',
    'send',
    'lists',
    'work-date',
  ],
};

export interface NewCompany {
  code: string;
  name: string;
  currency: string;
  tint: string;
  demo: boolean;
  customerInvoiceFirst?: boolean;
  /** What stands of it on paper. */
  paper?: Partial<
    Record<
      | 'street'
      | 'postcode'
      | 'town'
      | 'country'
      | 'registration'
      | 'taxNumber'
      | 'phone'
      | 'email'
      | 'bank'
      | 'bankAccount',
      string
    >
  >;
}

/** A company with its chart, roles and number series; its id and the roles' ids by name. */
export async function makeCompany(tx: Tx, company: NewCompany) {
  const [companyId] = await tx.insert(companyTable, [
    {
      code: company.code,
      name: company.name,
      currency: company.currency,
      tint: company.tint,
      demo: company.demo,
      customerInvoiceFirst: company.customerInvoiceFirst ?? false,
      ...company.paper,
    },
  ]);
  const [calendarId] = await tx.insert(calendarTable, [{ companyId: companyId!, name: 'Five days', week: '1111100' }]);
  await tx.run('UPDATE company SET calendar_id = ? WHERE id = ?', [calendarId!, companyId!]);
  await tx.insertBatch([
    { table: promiseTurnTable, rows: [{ companyId: companyId! }] },
    { table: listTurnTable, rows: [{ companyId: companyId! }] },
  ]);
  const names = Object.keys(ROLES);
  const roleIds = await tx.insert(
    roleTable,
    names.map((name) => ({ companyId: companyId!, name, rights: JSON.stringify(ROLES[name]) })),
  );
  await tx.insert(
    accountTable,
    CHART.map(({ code, name, role }) => ({ companyId: companyId!, code, name, postingRole: role })),
  );
  await tx.insertPlain(
    numberSeriesTable,
    DOCUMENT_KINDS.map((kind) => ({ companyId: companyId!, kind, nextSerial: 1 })),
  );
  return {
    companyId: companyId!,
    roles: new Map(names.map((name, index) => [name, roleIds[index]!])),
  };
}

/** A person who may sign in; their id. */
export async function makePerson(tx: Tx, person: { signIn: string; name: string; password: string }): Promise<number> {
  const [id] = await tx.insert(personTable, [
    {
      signIn: person.signIn.toLowerCase(),
      name: person.name,
      passwordHash: await hashPassword(person.password),
    },
  ]);
  return id!;
}

export async function giveRole(tx: Tx, personId: number, companyId: number, roleId: number): Promise<void> {
  await tx.insertPlain(personRoleTable, [{ personId, companyId, roleId }]);
}
