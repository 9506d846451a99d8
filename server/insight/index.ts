export { sumsOf } from './agreement-columns';
export { agreementsByPace } from './by-pace';
export { fulfilment } from './fulfilment';
