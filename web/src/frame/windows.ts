import { Dialog } from '@angular/cdk/dialog';
import { Overlay } from '@angular/cdk/overlay';
import { inject, Injectable } from '@angular/core';
import { CalendarFeed } from './calendar-feed';
import { FindOrDo } from './find-or-do';
import { Keys } from './keys';
import type { TypedAhead } from './typed-ahead';

/** What the frame lays over the page. Fetched after the first page, or when first asked for. */
@Injectable({ providedIn: 'root' })
export class Windows {
  private readonly dialog = inject(Dialog);
  private readonly overlay = inject(Overlay);

  /** Begins with what was typed since it was asked for. */
  find(ahead: TypedAhead): void {
    if (this.dialog.openDialogs.length > 0) return void ahead.take();
    this.dialog.open(FindOrDo, {
      data: ahead,
      width: '640px',
      positionStrategy: this.overlay.position().global().centerHorizontally().top('60px'),
      autoFocus: '[data-first]',
      ariaLabel: 'Find or do',
    });
  }

  keys(): void {
    if (this.dialog.openDialogs.length > 0) return;
    this.dialog.open(Keys, { autoFocus: '[data-first]', ariaLabel: 'Keys' });
  }

  calendar(): void {
    if (this.dialog.openDialogs.length > 0) return;
    this.dialog.open(CalendarFeed, { autoFocus: '[data-first]', ariaLabel: 'Reminders in your calendar' });
  }
}
