import { table, type Row } from '../db';

export const customerTable = table('customer', {
  int: 'companyId id= paymentTermsId salesOrganisationId? priceGroupId? salesPersonId? turn=',
  choice: 'priceOf=:order|ship language=:en|ms',
  text: 'number name phone= currency email= street= postcode= town= country= taxNumber=',
  decimal: 'creditLimit?',
  boolean: 'referenceRequired= contractedOnly= deliveredPrices= outOfUse=',
});
export type Customer = Row<typeof customerTable>;

export const contactTable = table('contact', {
  int: 'companyId id= customerId? vendorId?',
  text: 'name work= phone= email=',
});
export type Contact = Row<typeof contactTable>;

export const customerItemTable = table('customer_item', {
  int: 'id= companyId customerId itemId',
  text: 'number',
});

export const paymentTermsTable = table('payment_terms', {
  int: 'companyId id= days',
  text: 'name',
});

export const permitTable = table('permit', {
  int: 'companyId id= permitTypeId customerId contactId?',
  text: 'number',
  day: 'firstDay lastDay',
});
export type Permit = Row<typeof permitTable>;

export const permitTypeTable = table('permit_type', {
  int: 'companyId id=',
  text: 'name',
});

export const salesOrganisationTable = table('sales_organisation', {
  int: 'companyId id=',
  text: 'code name',
});

export const shipToTable = table('ship_to', {
  int: 'companyId id= customerId',
  text: 'label street town postcode country zone=',
});
export type ShipTo = Row<typeof shipToTable>;

export const vendorTable = table('vendor', {
  int: 'companyId id= paymentTermsId calendarId?',
  choice: 'language=:en|ms',
  text: 'number name phone= currency email= street= postcode= town= country= taxNumber=',
  decimal: 'tolerancePercent=',
  boolean: 'outOfUse=',
});
export type Vendor = Row<typeof vendorTable>;
