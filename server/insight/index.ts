export { fulfilment, fulfilmentTable } from './fulfilment';
