export {
  componentCost,
  labourCost,
  minutesFor,
  openTies,
  plannedCosts,
  tooLateFor,
  throughOf,
  WORK_STATES,
  type There,
  type WorkComponent,
  type WorkGround,
  type WorkOperation,
  type WorkOrder,
  type WorkState,
  type WorkTie,
} from './work-order';
export { decideReport, type ReportEffects, type ReportTyped } from './report';
export { decideTakeBackWork, type ReportNow, type TakeBackEffects, type TakenBackGround } from './take-back';
export {
  decideTieWork,
  decideUntieWork,
  rankOfFit,
  unfit,
  untiedOf,
  whyOfFit,
  type ServedLine,
  type TiedWork,
  type TieWorkGround,
} from './ties';
export { decideParts, type PartItem, type PartsEffects, type PartsGround, type PartsTyped } from './parts';
export { decideCancelWork, type CancelGround } from './cancel';
export { decideAssembly, type Assembled, type ShortLine } from './ship';
export { assemblingFirst, beyondShipped, takingApart, type Apart } from './with-shipment';
export { tiesBeyond, workGivenBack, type ComingTie, type GivenBack, type WorkOfLine } from './given-back';
export { expectedCosts, type CostedItem } from './cost';
export { apartNeeds, assemblyNeeds, reportNeeds, takeBackNeeds, type ReportNumbers } from './numbers';
export {
  decideOperations,
  firstChanged,
  withOwnRouting,
  type LaidNow,
  type OperationsEffects,
  type OperationsGround,
  type OperationsTyped,
} from './operations';
export { cellOf, isLate, workingDays } from './by-day';
export { earning, type Earning, type SoldPart } from './earning';
