import { bringInExchange } from './arrive';
import { keepElsewhere } from './keep';
import { sendExchange } from './send';

export { exchangeFiles } from './files';
export { listDue } from './send';
export const elsewhereActs = [keepElsewhere, bringInExchange, sendExchange];
