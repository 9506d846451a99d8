import * as billing from '@api/billing';
import { reads, type Room } from '../room';
import { billingActs } from './acts';
import { checks } from './checks';
import { listInvoices, listUninvoiced, openInvoice, openToInvoice } from './reads';
import { listCredits, listPrepayments, openByAge } from './lists';
import { creditUses } from './set-off';
import { openCreditNote, openPrepayment } from './credit-reads';

/** What the billing room has. */
export const room: Room = {
  acts: [...billingActs],
  answers: [
    reads(billing.listInvoices, (sql, companyId, { query, workDate }) => listInvoices(sql, companyId, query, workDate)),
    reads(billing.openCustomerInvoice, (sql, companyId, { params }) =>
      openInvoice(sql, companyId, 'customer', params.id),
    ),
    reads(billing.openVendorInvoice, (sql, companyId, { params }) => openInvoice(sql, companyId, 'vendor', params.id)),
    reads(billing.openToInvoice, (sql, companyId, { params, workDate }) =>
      openToInvoice(sql, companyId, params.id, workDate),
    ),
    reads(billing.listUninvoiced, (sql, companyId, { params }) => listUninvoiced(sql, companyId, params.id)),
    reads(billing.listCredits, (sql, companyId, { query, workDate }) => listCredits(sql, companyId, query, workDate)),
    reads(billing.listPrepayments, (sql, companyId, { query, workDate }) =>
      listPrepayments(sql, companyId, query, workDate),
    ),
    reads(billing.openByAge, (sql, companyId, { query, workDate }) => openByAge(sql, companyId, query, workDate)),
    reads(billing.openCreditNote, (sql, companyId, { params }) => openCreditNote(sql, companyId, params.id)),
    reads(billing.creditUses, (sql, companyId, { params }) => creditUses(sql, companyId, params.id)),
    reads(billing.openPrepayment, (sql, companyId, { params }) => openPrepayment(sql, companyId, params.id)),
  ],
  checks,
  findable: [
    {
      kind: 'CI',
      from: 'customer_invoice d JOIN customer p ON p.company_id = d.company_id AND p.id = d.customer_id',
      name: 'p.name',
    },
    {
      kind: 'VI',
      from: 'vendor_invoice d JOIN vendor p ON p.company_id = d.company_id AND p.id = d.vendor_id',
      name: 'p.name',
      also: 'd.vendor_number',
    },
    {
      kind: 'CN',
      from: 'credit_note d JOIN customer p ON p.company_id = d.company_id AND p.id = d.customer_id',
      name: 'p.name',
      also: 'd.reason',
    },
    {
      kind: 'PP',
      from: 'prepayment d JOIN customer p ON p.company_id = d.company_id AND p.id = d.customer_id',
      name: 'p.name',
    },
  ],
};
