export { agreementSums, type AgreementSums } from './agreement-columns';
export { fulfilment, fulfilmentTable } from './fulfilment';
