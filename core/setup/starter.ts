import type { AccountRole } from '@core/ledger';

/** An account as it is begun with: what the company calls it, and what is posted there by itself. */
export interface StarterAccount {
  code: string;
  name: string;
  role: AccountRole;
}

/** The chart a company begins with: one account for each thing that is posted by itself. // U1 P3 */
export const STARTER_ACCOUNTS: readonly StarterAccount[] = [
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
  { code: '3000', name: 'Opening balance', role: 'opening-balance' },
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

/** Tax codes to begin with, to be changed to what the law of the place says. // U1 */
export const STARTER_TAXES = [
  { code: 'ST', name: 'Standard rate', rate: '6' },
  { code: 'ZR', name: 'Zero rated', rate: '0' },
  { code: 'EX', name: 'Exempt', rate: '0' },
] as const;

/** Payment terms to begin with. */
export const STARTER_TERMS = [
  { name: 'At once', days: '0' },
  { name: '14 days', days: '14' },
  { name: '30 days', days: '30' },
] as const;
