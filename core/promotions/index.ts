export { PromotionBudgets } from './budget';
export { freeGoods, type FreeGoods } from './free';
export {
  fits,
  givenFor,
  offsFor,
  PROMOTION_KINDS,
  type PromotedLine,
  type PromotionKind,
  type PromotionOff,
  type PromotionOffer,
} from './offer';
export {
  decidePromotion,
  decideStop,
  PROMOTION_STATES,
  type PromotionGround,
  type PromotionLineTyped,
  type PromotionSaved,
  type PromotionState,
  type PromotionTyped,
} from './save';
