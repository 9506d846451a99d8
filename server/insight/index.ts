export { agreementSums, type AgreementSums } from './agreement-columns';
export { agreementsByPace } from './by-pace';
export { fulfilment, fulfilmentTable } from './fulfilment';
