import { room as access } from './access/room';
import { room as agreements } from './agreements/room';
import { room as billing } from './billing/room';
import { room as counter } from './counter/room';
import { room as claims } from './claims/room';
import { room as commission } from './commission/room';
import { room as catalogue } from './catalogue/room';
import { room as goingOut } from './going-out/room';
import { room as formats } from './formats/room';
import { room as setup } from './setup/room';
import { room as find } from './find/room';
import { room as insight } from './insight/room';
import { room as ledger } from './ledger/room';
import { room as mail } from './mail/room';
import { room as orders } from './orders/room';
import { room as parties } from './parties/room';
import { room as promotions } from './promotions/room';
import { room as promise } from './promise/room';
import { room as purchasing } from './purchasing/room';
import { room as rounds } from './rounds/room';
import { room as standing } from './standing/room';
import { room as stock } from './stock/room';
import { room as serial } from './serial/room';
import { room as sisters } from './sisters/room';
import { room as supply } from './supply/room';
import { room as today } from './today/room';
import { room as lists } from './lists/room';
import { room as workshop } from './workshop/room';
import type { Room } from './room';

/** Every room of the house. */
export const ROOMS: readonly Room[] = [
  access,
  agreements,
  orders,
  promotions,
  claims,
  commission,
  standing,
  mail,
  supply,
  sisters,
  purchasing,
  stock,
  serial,
  goingOut,
  rounds,
  counter,
  billing,
  formats,
  lists,
  promise,
  workshop,
  parties,
  catalogue,
  ledger,
  insight,
  today,
  setup,
  find,
];

/** Every act, whichever room it is of. */
export const ACTS = ROOMS.flatMap(({ acts = [] }) => acts);
