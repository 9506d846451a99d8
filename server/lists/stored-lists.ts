import { UNDER_WAY } from '@core/kernel';
import type { Table } from '../db';
import {
  bomLineTable,
  itemOptionTable,
  optionGroupTable,
  optionRuleTable,
  calendarTable,
  centreDowntimeTable,
  holidayTable,
  itemGroupTable,
  itemTable,
  itemUnitTable,
  itemVendorTable,
  locationTable,
  routingOperationTable,
  taxCodeTable,
  taxRateTable,
  vendorApprovalTable,
  workCentreTable,
  centreOvertimeTable,
} from '../catalogue/tables';
import {
  contactTable,
  customerItemTable,
  customerTable,
  permitTable,
  paymentTermsTable,
  permitTypeTable,
  salesOrganisationTable,
  shipToTable,
  vendorTable,
} from '../parties/tables';
import { commissionRateTable } from '../commission/tables';
import {
  allowanceTable,
  exchangeRateTable,
  freightBandTable,
  marketSeriesTable,
  marketValueTable,
  priceGroupTable,
  priceRuleTable,
} from '../pricing/tables';
import { accountTable } from '../ledger/tables';
import { itemBarCodeTable, tillTable } from '../counter/tables';
import { companyTable } from '../setup/tables';
import { paperTextTable } from '../formats/tables';

/** Where a kept list stands: the table its rows are written to, and what is shown of them. */
export interface StoredList {
  table: Table;
  /** The column that holds the company; its id itself for the company's own row. */
  company?: 'id';
  /** What is read, the table as `x`. */
  from: string;
  /** By field: what is shown, and the column it is written to (none for what is only shown). */
  fields: Readonly<Record<string, readonly [shown: string, column: string | null]>>;
  /** What the search box looks in. */
  looksIn: readonly string[];
  /** What holds on to a row: tables and their columns, or whatever the database says refers to it. */
  usedBy?: readonly (readonly [table: string, column: string])[] | 'anything';
  /** Rows that are never taken away, whatever holds on to them: what is posted or kept by itself needs them. */
  stays?: string;
}

/** A column that is shown as it is written. */
const own = (column: string): readonly [string, string] => [`x.${column}`, column];
const shown = (column: string): readonly [string, null] => [column, null];

const join = (table: string, as: string, column: string, kind: 'JOIN' | 'LEFT JOIN' = 'JOIN') =>
  `${kind} ${table} ${as} ON ${as}.company_id = x.company_id AND ${as}.id = x.${column}`;
const ITEM = join('item', 'i', 'item_id');
const CALENDAR = join('calendar', 'k', 'calendar_id');
const CUSTOMER = join('customer', 'c', 'customer_id');
const MAYBE_CUSTOMER = join('customer', 'c', 'customer_id', 'LEFT JOIN');
const MAYBE_GROUP = join('price_group', 'g', 'price_group_id', 'LEFT JOIN');

/** Where a party is on paper, and its tax number. */
const ADDRESSED = {
  street: own('street'),
  postcode: own('postcode'),
  town: own('town'),
  country: own('country'),
  taxNumber: own('tax_number'),
};

/** The people of customers, or of vendors. */
const contacts = (of: 'customer' | 'vendor'): StoredList => ({
  table: contactTable,
  from: `contact x ${join(of, 'p', `${of}_id`)}`,
  fields: {
    [of]: ['p.name', `${of}_id`],
    name: own('name'),
    work: own('work'),
    phone: own('phone'),
    email: own('email'),
  },
  looksIn: ['p.name', 'x.name', 'x.work', 'x.phone', 'x.email'],
  usedBy: [
    ['sales_order', 'contact_id'],
    ['permit', 'contact_id'],
  ],
});

export const STORED: Readonly<Record<string, StoredList>> = {
  prices: {
    table: priceRuleTable,
    from: `price_rule x ${ITEM} ${MAYBE_CUSTOMER} ${MAYBE_GROUP}`,
    fields: {
      item: ['i.number', 'item_id'],
      customer: ['c.name', 'customer_id'],
      group: ['g.name', 'price_group_id'],
      unit: own('unit'),
      from: own('from_quantity'),
      price: own('price'),
      currency: own('currency'),
      firstDay: own('first_day'),
      lastDay: own('last_day'),
    },
    looksIn: ['i.number', 'i.name', 'c.name', 'g.name'],
  },
  'commission-rates': {
    table: commissionRateTable,
    from: `commission_rate x LEFT JOIN person p ON p.id = x.person_id ${MAYBE_GROUP} LEFT JOIN item_group ig ON ig.company_id = x.company_id AND ig.id = x.item_group_id`,
    fields: {
      person: ["COALESCE(p.name, '')", 'person_id'],
      group: ['g.name', 'price_group_id'],
      itemGroup: ["COALESCE(ig.name, '')", 'item_group_id'],
      perCent: own('per_cent'),
      of: own('base'),
      at: own('earned_at'),
      firstDay: own('first_day'),
      lastDay: own('last_day'),
    },
    looksIn: ['p.name', 'g.name', 'ig.name'],
  },
  allowances: {
    table: allowanceTable,
    from: `allowance x ${MAYBE_CUSTOMER} ${MAYBE_GROUP}`,
    fields: {
      measure: own('measure'),
      customer: ['c.name', 'customer_id'],
      group: ['g.name', 'price_group_id'],
      from: own('from_measure'),
      currency: own('currency'),
      perCent: own('per_cent'),
      firstDay: own('first_day'),
      lastDay: own('last_day'),
    },
    looksIn: ['x.measure', 'c.name', 'g.name'],
  },
  freight: {
    table: freightBandTable,
    from: 'freight_band x',
    fields: { zone: own('zone'), from: own('from_weight'), perKilogram: own('per_kilogram') },
    looksIn: ['x.zone'],
  },
  'market-values': {
    table: marketValueTable,
    from: `market_value x ${join('market_series', 's', 'series_id')}`,
    fields: { series: ['s.name', 'series_id'], day: own('day'), value: own('value') },
    looksIn: ['s.name', 'x.day'],
  },
  rates: {
    table: exchangeRateTable,
    from: 'exchange_rate x',
    fields: { currency: own('currency'), day: own('day'), rate: own('rate') },
    looksIn: ['x.currency', 'x.day'],
  },
  series: {
    table: marketSeriesTable,
    from: 'market_series x',
    fields: { name: own('name'), unit: own('unit') },
    looksIn: ['x.name'],
    usedBy: [
      ['item', 'cost_series_id'],
      ['market_value', 'series_id'],
    ],
  },
  'price-groups': {
    table: priceGroupTable,
    from: 'price_group x',
    fields: { name: own('name') },
    looksIn: ['x.name'],
    usedBy: [
      ['customer', 'price_group_id'],
      ['price_rule', 'price_group_id'],
      ['allowance', 'price_group_id'],
    ],
  },
  company: {
    table: companyTable,
    company: 'id',
    from: 'company x',
    fields: {
      name: shown('x.name'),
      priceSearch: own('price_search'),
      customerInvoiceFirst: own('customer_invoice_first'),
    },
    looksIn: ['x.name'],
  },
  items: {
    table: itemTable,
    from: `item x ${join('tax_code', 'w', 'tax_code_id')} ${join('item_group', 'g', 'item_group_id', 'LEFT JOIN')}
           ${join('permit_type', 't', 'permit_type_id', 'LEFT JOIN')}`,
    fields: {
      number: own('number'),
      name: own('name'),
      unit: own('unit'),
      group: ['g.name', 'item_group_id'],
      tax: ['w.code', 'tax_code_id'],
      route: own('route'),
      stocked: own('stocked'),
      listPrice: own('list_price'),
      weight: own('weight'),
      volume: own('volume'),
      packSize: own('pack_size'),
      splitCharge: own('split_charge'),
      permitType: ['t.name', 'permit_type_id'],
      reserving: own('reserving'),
      approvalNeeded: own('approval_needed'),
      outOfUse: own('out_of_use'),
    },
    looksIn: ['x.number', 'x.name'],
    usedBy: 'anything',
  },
  'item-groups': {
    table: itemGroupTable,
    from: 'item_group x',
    fields: { code: own('code'), name: own('name'), approvalNeeded: own('approval_needed') },
    looksIn: ['x.code', 'x.name'],
    usedBy: 'anything',
  },
  'tax-codes': {
    table: taxCodeTable,
    from: 'tax_code x',
    fields: { code: own('code'), name: own('name'), rate: own('rate') },
    looksIn: ['x.code', 'x.name'],
    usedBy: 'anything',
  },
  'tax-rates': {
    table: taxRateTable,
    from: `tax_rate x ${join('tax_code', 't', 'tax_code_id')}`,
    fields: { tax: ['t.code', 'tax_code_id'], day: own('first_day'), rate: own('rate') },
    looksIn: ['t.code', 't.name'],
  },
  terms: {
    table: paymentTermsTable,
    from: 'payment_terms x',
    fields: { name: own('name'), days: own('days') },
    looksIn: ['x.name'],
    usedBy: 'anything',
  },
  organisations: {
    table: salesOrganisationTable,
    from: 'sales_organisation x',
    fields: { code: own('code'), name: own('name') },
    looksIn: ['x.code', 'x.name'],
    usedBy: 'anything',
  },
  accounts: {
    table: accountTable,
    from: 'account x',
    fields: {
      code: own('code'),
      name: own('name'),
      role: ["REPLACE(COALESCE(x.posting_role, ''), '-', ' ')", null],
      shares: own('shares_role'),
    },
    looksIn: ['x.code', 'x.name', 'x.posting_role'],
    usedBy: 'anything',
    stays: 'posting_role IS NOT NULL',
  },
  'group-accounts': {
    table: itemGroupTable,
    from: `item_group x ${join('account', 'r', 'revenue_account_id', 'LEFT JOIN')} ${join('account', 'c', 'cost_account_id', 'LEFT JOIN')}`,
    fields: {
      code: shown('x.code'),
      name: shown('x.name'),
      revenue: ['r.code', 'revenue_account_id'],
      cost: ['c.code', 'cost_account_id'],
    },
    looksIn: ['x.code', 'x.name', 'r.code', 'c.code'],
  },
  units: {
    table: itemUnitTable,
    from: `item_unit x ${ITEM}`,
    fields: { item: ['i.number', 'item_id'], unit: own('unit'), factor: own('factor') },
    looksIn: ['i.number', 'i.name', 'x.unit'],
  },
  costs: {
    table: itemTable,
    from: `item x ${join('market_series', 's', 'cost_series_id', 'LEFT JOIN')}`,
    fields: {
      number: shown('x.number'),
      name: shown('x.name'),
      costBasis: own('cost_basis'),
      series: ['s.name', 'cost_series_id'],
      factor: own('cost_factor'),
      offset: own('cost_offset'),
      surcharge: own('cost_surcharge'),
      margin: own('cost_margin'),
    },
    looksIn: ['x.number', 'x.name', 's.name'],
  },
  obtaining: {
    table: itemTable,
    from: 'item x',
    fields: {
      number: shown('x.number'),
      name: shown('x.name'),
      obtained: own('obtained'),
      method: own('promise_method'),
      safetyStock: own('safety_stock'),
      lotMinimum: own('lot_minimum'),
      lotMultiple: own('lot_multiple'),
      phantom: own('phantom'),
      makeDays: own('make_days'),
    },
    looksIn: ['x.number', 'x.name'],
  },
  boms: {
    table: bomLineTable,
    from: `bom_line x ${ITEM} ${join('item', 'k', 'component_id')}`,
    fields: {
      item: ['i.number', 'item_id'],
      line: own('line_no'),
      component: ['k.number', 'component_id'],
      quantity: own('quantity'),
      scrap: own('scrap_percent'),
      operation: own('operation_no'),
      firstDay: own('first_day'),
      lastDay: own('last_day'),
    },
    looksIn: ['i.number', 'i.name', 'k.number', 'k.name'],
  },
  'option-groups': {
    table: optionGroupTable,
    from: `option_group x ${ITEM} ${join('item', 'k', 'replaces_id', 'LEFT JOIN')}`,
    fields: {
      item: ['i.number', 'item_id'],
      name: own('name'),
      replaces: ['k.number', 'replaces_id'],
      atLeast: own('at_least'),
      atMost: own('at_most'),
    },
    looksIn: ['i.number', 'i.name', 'x.name'],
    usedBy: [['item_option', 'group_id']],
  },
  options: {
    table: itemOptionTable,
    from: `item_option x ${join('option_group', 'g', 'group_id')}
           JOIN item i ON i.company_id = g.company_id AND i.id = g.item_id ${join('item', 'k', 'component_id')}`,
    fields: {
      group: ["CONCAT(i.number, ' ', g.name)", 'group_id'],
      component: ['k.number', 'component_id'],
      quantity: own('quantity'),
      operation: own('operation_no'),
      price: own('price'),
    },
    looksIn: ['i.number', 'g.name', 'k.number', 'k.name'],
    usedBy: [
      ['sales_line_option', 'option_id'],
      ['planned_order_option', 'option_id'],
      ['option_rule', 'option_id'],
      ['option_rule', 'other_id'],
    ],
  },
  'option-rules': {
    table: optionRuleTable,
    from: `option_rule x ${['a', 'b']
      .map(
        (
          side,
          at,
        ) => `JOIN item_option ${side}o ON ${side}o.company_id = x.company_id AND ${side}o.id = x.${at === 0 ? 'option_id' : 'other_id'}
           JOIN option_group ${side}g ON ${side}g.company_id = ${side}o.company_id AND ${side}g.id = ${side}o.group_id
           JOIN item ${side}i ON ${side}i.company_id = ${side}g.company_id AND ${side}i.id = ${side}g.item_id
           JOIN item ${side}k ON ${side}k.company_id = ${side}o.company_id AND ${side}k.id = ${side}o.component_id`,
      )
      .join(' ')}`,
    fields: {
      option: ["CONCAT(ai.number, ' ', ag.name, ' ', ak.number)", 'option_id'],
      kind: own('kind'),
      other: ["CONCAT(bi.number, ' ', bg.name, ' ', bk.number)", 'other_id'],
    },
    looksIn: ['ai.number', 'ag.name', 'ak.number', 'bk.number'],
  },
  routings: {
    table: routingOperationTable,
    from: `routing_operation x ${ITEM} ${join('work_centre', 'w', 'work_centre_id')}`,
    fields: {
      item: ['i.number', 'item_id'],
      no: own('no'),
      name: own('name'),
      centre: ['w.code', 'work_centre_id'],
      setup: own('setup_minutes'),
      run: own('run_minutes'),
      parallel: own('parallel'),
      firstDay: own('first_day'),
      lastDay: own('last_day'),
    },
    looksIn: ['i.number', 'i.name', 'w.code', 'x.name'],
  },
  'work-centres': {
    table: workCentreTable,
    from: `work_centre x ${CALENDAR}`,
    fields: {
      code: own('code'),
      name: own('name'),
      machines: own('machines'),
      hours: own('hours'),
      calendar: ['k.name', 'calendar_id'],
    },
    looksIn: ['x.code', 'x.name'],
    usedBy: [
      ['routing_operation', 'work_centre_id'],
      ['planned_operation', 'work_centre_id'],
      ['centre_downtime', 'work_centre_id'],
      ['centre_overtime', 'work_centre_id'],
    ],
  },
  locations: {
    table: locationTable,
    // Where goods under way are is not a company's to change.
    from: `(SELECT * FROM location WHERE id <> ${UNDER_WAY}) x`,
    fields: { code: own('code'), name: own('name') },
    looksIn: ['x.code', 'x.name'],
    usedBy: [
      ['stock', 'location_id'],
      ['stock_entry', 'location_id'],
      ['sales_order_line', 'location_id'],
      ['purchase_order', 'location_id'],
      ['planned_order', 'location_id'],
    ],
    stays: 'id = 0',
  },
  overtime: {
    table: centreOvertimeTable,
    from: `centre_overtime x ${join('work_centre', 'w', 'work_centre_id')}`,
    fields: {
      centre: ['w.code', 'work_centre_id'],
      firstDay: own('first_day'),
      lastDay: own('last_day'),
      hours: own('hours'),
      why: own('why'),
    },
    looksIn: ['w.code', 'w.name', 'x.why'],
  },
  'machines-out': {
    table: centreDowntimeTable,
    from: `centre_downtime x ${join('work_centre', 'w', 'work_centre_id')}`,
    fields: {
      centre: ['w.code', 'work_centre_id'],
      firstDay: own('first_day'),
      lastDay: own('last_day'),
      machines: own('machines'),
      why: own('why'),
    },
    looksIn: ['w.code', 'w.name', 'x.why'],
  },
  calendars: {
    table: calendarTable,
    from: 'calendar x',
    fields: { name: own('name'), week: own('week') },
    looksIn: ['x.name'],
    usedBy: [
      ['holiday', 'calendar_id'],
      ['vendor', 'calendar_id'],
      ['work_centre', 'calendar_id'],
    ],
  },
  holidays: {
    table: holidayTable,
    from: `holiday x ${CALENDAR}`,
    fields: { calendar: ['k.name', 'calendar_id'], day: own('day'), name: own('name') },
    looksIn: ['k.name', 'x.name', 'x.day'],
  },
  'own-days': {
    table: companyTable,
    company: 'id',
    from: 'company x LEFT JOIN calendar k ON k.company_id = x.id AND k.id = x.calendar_id',
    fields: {
      name: shown('x.name'),
      calendar: ['k.name', 'calendar_id'],
      receivingDays: own('receiving_days'),
      safetyDays: own('safety_days'),
      timeZone: own('time_zone'),
    },
    looksIn: ['x.name'],
  },
  'vendor-calendars': {
    table: vendorTable,
    from: `vendor x ${join('calendar', 'k', 'calendar_id', 'LEFT JOIN')}`,
    fields: { number: shown('x.number'), name: shown('x.name'), calendar: ['k.name', 'calendar_id'] },
    looksIn: ['x.number', 'x.name', 'k.name'],
  },
  letterhead: {
    table: companyTable,
    company: 'id',
    from: 'company x',
    fields: {
      name: shown('x.name'),
      ...ADDRESSED,
      registration: own('registration'),
      phone: own('phone'),
      email: own('email'),
      bank: own('bank'),
      bankAccount: own('bank_account'),
    },
    looksIn: ['x.name'],
  },
  'customer-papers': {
    table: customerTable,
    from: 'customer x',
    fields: { number: shown('x.number'), name: shown('x.name'), ...ADDRESSED, language: own('language') },
    looksIn: ['x.number', 'x.name', 'x.town', 'x.tax_number'],
  },
  'vendor-papers': {
    table: vendorTable,
    from: 'vendor x',
    fields: { number: shown('x.number'), name: shown('x.name'), ...ADDRESSED, language: own('language') },
    looksIn: ['x.number', 'x.name', 'x.town', 'x.tax_number'],
  },
  'paper-texts': {
    table: paperTextTable,
    from: 'paper_text x',
    fields: { document: own('document_kind'), language: own('language'), text: own('words') },
    looksIn: ['x.words'],
  },
  customers: {
    table: customerTable,
    from: `customer x ${join('payment_terms', 't', 'payment_terms_id')} ${MAYBE_GROUP}
           ${join('sales_organisation', 'o', 'sales_organisation_id', 'LEFT JOIN')}
           LEFT JOIN person p ON p.id = x.sales_person_id`,
    fields: {
      number: own('number'),
      name: own('name'),
      currency: own('currency'),
      terms: ['t.name', 'payment_terms_id'],
      phone: own('phone'),
      creditLimit: own('credit_limit'),
      group: ['g.name', 'price_group_id'],
      delivered: own('delivered_prices'),
      priceOf: own('price_of'),
      referenceRequired: own('reference_required'),
      salesPerson: ["COALESCE(p.name, '')", 'sales_person_id'],
      contractedOnly: own('contracted_only'),
      organisation: ['o.name', 'sales_organisation_id'],
      outOfUse: own('out_of_use'),
    },
    looksIn: ['x.number', 'x.name', 'x.phone', 'g.name'],
    usedBy: 'anything',
  },
  'customer-addresses': {
    table: customerTable,
    from: 'customer x',
    fields: { number: shown('x.number'), name: shown('x.name'), email: own('email'), phone: own('phone') },
    looksIn: ['x.number', 'x.name', 'x.email', 'x.phone'],
  },
  'customer-contacts': contacts('customer'),
  'vendor-contacts': contacts('vendor'),
  'ship-tos': {
    table: shipToTable,
    from: `ship_to x ${CUSTOMER}`,
    fields: {
      customer: ['c.name', 'customer_id'],
      label: own('label'),
      street: own('street'),
      postcode: own('postcode'),
      town: own('town'),
      country: own('country'),
      zone: own('zone'),
    },
    looksIn: ['c.name', 'x.label', 'x.town', 'x.zone'],
    usedBy: 'anything',
  },
  permits: {
    table: permitTable,
    from: `permit x ${CUSTOMER} ${join('permit_type', 't', 'permit_type_id')} ${join('contact', 'k', 'contact_id', 'LEFT JOIN')}`,
    fields: {
      customer: ['c.name', 'customer_id'],
      contact: ["COALESCE(k.name, '')", 'contact_id'],
      permitType: ['t.name', 'permit_type_id'],
      number: own('number'),
      firstDay: own('first_day'),
      lastDay: own('last_day'),
    },
    looksIn: ['c.name', 't.name', 'x.number'],
    usedBy: [['sales_order_line', 'permit_id']],
  },
  tills: {
    table: tillTable,
    from: `till x ${join('location', 'l', 'location_id')}`,
    fields: { name: own('name'), location: ['l.name', 'location_id'] },
    looksIn: ['x.name', 'l.name'],
    usedBy: [
      ['drawer', 'till_id'],
      ['card_payment', 'till_id'],
    ],
  },
  'bar-codes': {
    table: itemBarCodeTable,
    from: `item_bar_code x ${ITEM}`,
    fields: { item: ['i.number', 'item_id'], code: own('code'), quantity: own('quantity') },
    looksIn: ['i.number', 'i.name', 'x.code'],
  },
  'counter-rules': {
    table: companyTable,
    company: 'id',
    from: 'company x LEFT JOIN customer c ON c.company_id = x.id AND c.id = x.counter_customer_id',
    fields: {
      name: shown('x.name'),
      customer: ["COALESCE(c.name, '')", 'counter_customer_id'],
      returnDays: own('return_days'),
    },
    looksIn: ['x.name'],
  },
  'permit-types': {
    table: permitTypeTable,
    from: 'permit_type x',
    fields: { name: own('name') },
    looksIn: ['x.name'],
    usedBy: [
      ['item', 'permit_type_id'],
      ['permit', 'permit_type_id'],
    ],
  },
  'their-numbers': {
    table: customerItemTable,
    from: `customer_item x ${CUSTOMER} ${ITEM}`,
    fields: { customer: ['c.name', 'customer_id'], item: ['i.number', 'item_id'], number: own('number') },
    looksIn: ['c.name', 'i.number', 'x.number'],
  },
  vendors: {
    table: vendorTable,
    from: `vendor x ${join('payment_terms', 't', 'payment_terms_id')}`,
    fields: {
      number: own('number'),
      name: own('name'),
      currency: own('currency'),
      terms: ['t.name', 'payment_terms_id'],
      tolerance: own('tolerance_percent'),
      email: own('email'),
      phone: own('phone'),
      outOfUse: own('out_of_use'),
    },
    looksIn: ['x.number', 'x.name', 'x.phone'],
    usedBy: 'anything',
  },
  'vendor-items': {
    table: itemVendorTable,
    from: `item_vendor x ${ITEM} ${join('vendor', 'v', 'vendor_id')}`,
    fields: {
      item: ['i.number', 'item_id'],
      vendor: ['v.name', 'vendor_id'],
      price: own('unit_price'),
      currency: shown('v.currency'),
      leadDays: own('lead_days'),
      minimum: own('minimum'),
      multiple: own('multiple'),
      preferred: own('preferred'),
    },
    looksIn: ['i.number', 'i.name', 'v.name'],
  },
  approvals: {
    table: vendorApprovalTable,
    from: `vendor_approval x ${join('vendor', 'v', 'vendor_id')} ${join('item', 'i', 'item_id', 'LEFT JOIN')}
           ${join('item_group', 'g', 'item_group_id', 'LEFT JOIN')}`,
    fields: {
      vendor: ['v.name', 'vendor_id'],
      item: ['i.number', 'item_id'],
      itemGroup: ['g.name', 'item_group_id'],
      firstDay: own('first_day'),
      lastDay: own('last_day'),
    },
    looksIn: ['v.name', 'i.number', 'g.name'],
  },
};
