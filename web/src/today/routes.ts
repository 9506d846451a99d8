import type { Routes } from '@angular/router';
import { TodayPage } from './today';

/** The first page, there at once. */
export const routes: Routes = [{ path: 'today', component: TodayPage }];
