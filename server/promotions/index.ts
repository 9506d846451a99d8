export { promotionsFor } from './offers';
