export { earningsOf, type Earning, type EarnedBefore, type InvoicedLine, type RateTerms } from './earning';
export {
  COMMISSION_BASES,
  EARNED_AT,
  rateFor,
  type CommissionBase,
  type CommissionRate,
  type EarnedAt,
  type RateAsked,
} from './rates';
export {
  decideStatement,
  decideStatementBack,
  decideStatementPaid,
  STATEMENT_STATES,
  type StatementGround,
  type StatementState,
} from './statement';
