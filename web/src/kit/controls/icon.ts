import { ChangeDetectionStrategy, Component, effect, ElementRef, inject, input } from '@angular/core';
import bell from '@material-symbols/svg-400/outlined/notifications.svg';
import bench from '@material-symbols/svg-400/outlined/dashboard.svg';
import billing from '@material-symbols/svg-400/outlined/request_quote.svg';
import calendar from '@material-symbols/svg-400/outlined/calendar_month.svg';
import close from '@material-symbols/svg-400/outlined/close.svg';
import lists from '@material-symbols/svg-400/outlined/table_rows.svg';
import counter from '@material-symbols/svg-400/outlined/storefront.svg';
import handshake from '@material-symbols/svg-400/outlined/handshake.svg';
import insight from '@material-symbols/svg-400/outlined/leaderboard.svg';
import keyboard from '@material-symbols/svg-400/outlined/keyboard.svg';
import more from '@material-symbols/svg-400/outlined/more_horiz.svg';
import outward from '@material-symbols/svg-400/outlined/outbox.svg';
import orders from '@material-symbols/svg-400/outlined/receipt_long.svg';
import workshop from '@material-symbols/svg-400/outlined/precision_manufacturing.svg';
import stock from '@material-symbols/svg-400/outlined/inventory_2.svg';
import tray from '@material-symbols/svg-400/outlined/inbox.svg';
import truck from '@material-symbols/svg-400/outlined/local_shipping.svg';
import today from '@material-symbols/svg-400/outlined/wb_twilight.svg';

const ICONS = {
  bell,
  bench,
  billing,
  calendar,
  close,
  counter,
  handshake,
  insight,
  keyboard,
  lists,
  more,
  orders,
  outward,
  stock,
  today,
  tray,
  truck,
  workshop,
} as const;
export type IconName = keyof typeof ICONS;

/** One of the few icons that ship with the program; for the eye only. */
@Component({
  selector: 'k-icon',
  template: '',
  host: { class: 'icon', 'aria-hidden': 'true' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Icon {
  readonly name = input.required<IconName>();
  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    // Shipped text, never input.
    effect(() => (host.innerHTML = ICONS[this.name()]));
  }
}
