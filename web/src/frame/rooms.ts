import type { Provider } from '@angular/core';
import type { Routes } from '@angular/router';
import { routes as access } from '../access/routes';
import { routes as agreements } from '../agreements/routes';
import { routes as billing } from '../billing/routes';
import { routes as catalogue } from '../catalogue/routes';
import { routes as claims } from '../claims/routes';
import { routes as commission } from '../commission/routes';
import { routes as counter } from '../counter/routes';
import { routes as insight } from '../insight/routes';
import { routes as ledger } from '../ledger/routes';
import { routes as lists } from '../lists/routes';
import { routes as mail } from '../mail/routes';
import { routes as orders } from '../orders/routes';
import { routes as parties } from '../parties/routes';
import { providers as promiseProviders, routes as promise } from '../promise/routes';
import { routes as promotions } from '../promotions/routes';
import { routes as purchasing } from '../purchasing/routes';
import { routes as serial } from '../serial/routes';
import { routes as goingOut } from '../going-out/routes';
import { routes as rounds } from '../rounds/routes';
import { routes as standing } from '../standing/routes';
import { routes as stock } from '../stock/routes';
import { routes as setup } from '../setup/routes';
import { routes as sisters } from '../sisters/routes';
import { routes as supply } from '../supply/routes';
import { routes as today } from '../today/routes';
import { routes as workshop } from '../workshop/routes';

/** The pages of all rooms; those of a new room stand here, and nowhere else outside it. */
export const ROOMS: Routes = [
  ...today,
  ...agreements,
  ...orders,
  ...counter,
  ...standing,
  ...promotions,
  ...claims,
  ...commission,
  ...supply,
  ...sisters,
  ...purchasing,
  ...goingOut,
  ...rounds,
  ...stock,
  ...serial,
  ...promise,
  ...workshop,
  ...billing,
  ...ledger,
  ...parties,
  ...catalogue,
  ...lists,
  ...mail,
  ...insight,
  ...access,
  ...setup,
];

/** What rooms provide to the whole application. */
export const PROVIDERS: Provider[] = [...promiseProviders];
