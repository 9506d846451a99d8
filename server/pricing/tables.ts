import { table, type Row } from '../db';

export const allowanceTable = table('allowance', {
  int: 'companyId id= customerId? priceGroupId?',
  choice: 'measure:weight|volume|quantity|amount',
  text: 'currency?',
  day: 'firstDay? lastDay?',
  decimal: 'fromMeasure perCent',
});
export type Allowance = Row<typeof allowanceTable>;

export const exchangeRateTable = table('exchange_rate', {
  int: 'companyId id=',
  text: 'currency',
  day: 'day',
  decimal: 'rate',
});

export const freightBandTable = table('freight_band', {
  int: 'id= companyId',
  text: 'zone',
  decimal: 'fromWeight perKilogram',
});

export const marketSeriesTable = table('market_series', {
  int: 'companyId id=',
  text: 'name unit',
});

export const marketValueTable = table('market_value', {
  int: 'id= companyId seriesId',
  day: 'day',
  decimal: 'value',
});

export const priceGroupTable = table('price_group', {
  int: 'companyId id=',
  text: 'name',
});

export const priceRuleTable = table('price_rule', {
  int: 'companyId id= itemId customerId? priceGroupId?',
  text: 'currency unit',
  day: 'firstDay? lastDay?',
  decimal: 'fromQuantity= price',
});
