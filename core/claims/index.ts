export {
  decideClaim,
  decideClaimBack,
  decideClaimLost,
  decideClaimPaid,
  decideClaimSettled,
  type ClaimNow,
  type OwedToVendor,
} from './claim';
export {
  accrualsOf,
  decideSupport,
  SUPPORT_STATES,
  type Accrual,
  type SoldLine,
  type SupportGround,
  type SupportLine,
  type SupportSaved,
  type SupportState,
  type SupportTyped,
} from './support';
