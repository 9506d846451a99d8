import { table } from '../db';

export const companyTable = table('company', {
  int: 'id= calendarId? receivingDays= safetyDays= counterCustomerId? returnDays=',
  choice: 'priceSearch=:first|best',
  text: 'code name currency tint timeZone? street= postcode= town= country= registration= taxNumber= phone= email= bank= bankAccount=',
  bytes: 'logo?',
  day: 'workDate? stoodInOn?',
  boolean: 'customerInvoiceFirst= demo= planByProbability= elsewhere=',
});

export const firstVisitTable = table('first_visit', {
  int: 'id=',
  bytes: 'wordHash',
  time: 'madeAt=',
});
