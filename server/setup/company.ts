import { DOCUMENT_KINDS } from '@core/kernel';
import { STARTER_ACCOUNTS, type BeginEffects } from '@core/setup';
import { RIGHTS, type Right } from '@api/access';
import { hashPassword } from '../access';
import type { Tx } from '../db';
import { personRoleTable, personTable, roleTable } from '../access/tables';
import { numberSeriesTable } from '../acts/tables';
import { calendarTable, locationTable, taxCodeTable } from '../catalogue/tables';
import { accountTable } from '../ledger/tables';
import { listTurnTable } from '../lists/tables';
import { paymentTermsTable } from '../parties/tables';
import { promiseTurnTable } from '../promise/tables';
import { companyTable } from './tables';

const SEES_BUYING = ['see-costs', 'see-agreements', 'see-mail', 'export'] as const;
const SEES_ALL = [...SEES_BUYING, 'see-debts', 'write-to-others'] as const;

/** Whoever begins a company may do everything in it. // U1 */
export const OWNER = 'Owner';

/** The roles a company begins with. */
export const ROLES: Record<string, readonly Right[]> = {
  'Order administrator': RIGHTS.filter((right) => !['credit', 'periods', 'people', 'companies'].includes(right)),
  [OWNER]: RIGHTS,
  Buyer: [...SEES_BUYING, 'purchases', 'promotions', 'goods', 'approve', 'send', 'work-date'],
  'Stock keeper': ['goods', 'work', 'export', 'send', 'work-date'],
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
  timeZone?: string;
  /** Work days from Monday on; five where it is left out. */
  week?: string;
  accounts?: BeginEffects['accounts'];
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
      timeZone: company.timeZone ?? null,
      ...company.paper,
    },
  ]);
  const [calendarId] = await tx.insert(calendarTable, [
    company.week
      ? { companyId: companyId!, name: 'Work days', week: company.week }
      : { companyId: companyId!, name: 'Five days', week: '1111100' },
  ]);
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
    (company.accounts ?? STARTER_ACCOUNTS).map(({ code, name, role }) => ({
      companyId: companyId!,
      code,
      name,
      postingRole: role,
    })),
  );
  await tx.insertPlain(
    numberSeriesTable,
    DOCUMENT_KINDS.map((kind) => ({ companyId: companyId!, kind, nextSerial: 1, prefix: `${kind}-` })),
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

/** What a company begins with besides, as its first visitor wrote it: taxes, terms, the names of its places. // U1 */
export async function furnish(tx: Tx, companyId: number, { taxes, terms, locations }: BeginEffects): Promise<void> {
  await tx.insert(
    taxCodeTable,
    taxes.map((tax) => ({ companyId, ...tax })),
  );
  await tx.insert(
    paymentTermsTable,
    terms.map((term) => ({ companyId, ...term })),
  );
  const [main, ...others] = locations;
  await tx.run('UPDATE location SET code = ?, name = ? WHERE company_id = ? AND id = 0', [
    main!.code,
    main!.name,
    companyId,
  ]);
  await tx.insert(
    locationTable,
    others.map((location) => ({ companyId, ...location })),
  );
}
