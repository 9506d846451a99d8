import { Dialog } from '@angular/cdk/dialog';
import { Overlay } from '@angular/cdk/overlay';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { Router, RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import { MatMenuModule } from '@angular/material/menu';
import { addDays, dayText } from '@core/kernel';
import { Session } from '../access/session';
import { pathOf } from '../kit/documents';
import { Icon } from '../kit/icon';
import { LiveEvents } from '../kit/live';
import { Quiet } from '../kit/quiet';
import { PLACES } from './places';

/** The frame: band, spine, page. */
@Component({
  selector: 'k-shell',
  imports: [Icon, MatMenuModule, RouterLink, RouterLinkActive, RouterOutlet],
  templateUrl: './shell.html',
  styleUrl: './shell.scss',
  host: { '(document:keydown)': 'key($event)' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Shell {
  private readonly dialog = inject(Dialog);
  private readonly overlay = inject(Overlay);
  private readonly router = inject(Router);
  protected readonly session = inject(Session);
  protected readonly live = inject(LiveEvents);
  protected readonly quiet = inject(Quiet);
  protected readonly places = PLACES;
  protected readonly folded = signal(localStorage.getItem('spine folded') === 'yes');
  protected readonly pathOf = pathOf;

  protected workDateText(): string {
    return dayText(this.session.workDate(), '0000-00-00');
  }

  protected fold(): void {
    this.folded.update((folded) => !folded);
    localStorage.setItem('spine folded', this.folded() ? 'yes' : 'no');
  }

  protected moveWorkDate(days: number): void {
    void this.session.moveWorkDate(addDays(this.session.workDate(), days));
  }

  protected async find(): Promise<void> {
    const { FindOrDo } = await import('./find-or-do');
    this.dialog.open(FindOrDo, {
      width: '640px',
      positionStrategy: this.overlay.position().global().centerHorizontally().top('60px'),
      autoFocus: '[data-first]',
      ariaLabel: 'Find or do',
    });
  }

  protected async showKeys(): Promise<void> {
    const { Keys } = await import('./keys');
    this.dialog.open(Keys, { autoFocus: '[data-first]', ariaLabel: 'Keys' });
  }

  protected key(event: KeyboardEvent): void {
    const typing = /^(INPUT|SELECT|TEXTAREA)$/.test((event.target as HTMLElement).tagName);
    const place = event.altKey && /^Digit[1-9]$/.test(event.code) ? PLACES[Number(event.code.slice(5)) - 1] : undefined;
    if (event.ctrlKey && event.key.toLowerCase() === 'k') {
      event.preventDefault();
      if (this.dialog.openDialogs.length === 0) void this.find();
    } else if (place) {
      event.preventDefault();
      void this.router.navigateByUrl(place.path);
    } else if (event.key === '?' && !typing) {
      void this.showKeys();
    } else if (event.altKey && event.key.toLowerCase() === 'g') {
      event.preventDefault();
      document.querySelector<HTMLElement>('k-grid .ag-cell')?.focus();
    } else if (event.ctrlKey && event.key === 'Enter') {
      // The next step of what is on top: the side sheet where one is open, else the page.
      const within = this.dialog.openDialogs.length > 0 ? 'k-sheet footer' : '.title';
      document.querySelector<HTMLElement>(`${within} .act.next`)?.click();
    }
  }
}
