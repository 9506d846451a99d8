import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, Injector, signal } from '@angular/core';
import { Router, RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import { addDays, dayText } from '@core/kernel';
import { Session } from '../access';
import { pathOf } from '../kit/documents';
import { Icon } from '../kit/controls/icon';
import { LiveEvents } from '../kit/live/live';
import { Notices } from '../kit/act/notices';
import { MenuButton } from './menu-button';
import { NUMBERED, PLACES, SETUP } from './places';
import { TypedAhead } from './typed-ahead';

const OUT_OF_REACH_YET = 'Kampong cannot be reached just now; try again when the connection is back.';

/** The frame: band, spine, page. */
@Component({
  selector: 'k-shell',
  imports: [Icon, MenuButton, NgTemplateOutlet, RouterLink, RouterLinkActive, RouterOutlet],
  templateUrl: './shell.html',
  styleUrl: './shell.scss',
  host: { '(document:keydown)': 'key($event)' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Shell {
  private readonly injector = inject(Injector);
  private readonly router = inject(Router);
  protected readonly session = inject(Session);
  protected readonly live = inject(LiveEvents);
  protected readonly notices = inject(Notices);
  protected readonly places = computed(() =>
    PLACES.filter(
      ({ needs, sisters }) =>
        (!needs || this.session.may(needs)) && (!sisters || (this.session.current()?.sisters ?? false)),
    ),
  );
  protected readonly setup = SETUP;
  protected readonly folded = signal(localStorage.getItem('spine folded') === 'yes');
  protected readonly pathOf = pathOf;
  protected readonly companies = computed(() =>
    (this.session.current()?.companies ?? []).map(({ id, name }) => ({ value: String(id), label: name })),
  );
  protected readonly days = [
    { value: '1', label: 'One day on' },
    { value: '7', label: 'A week on' },
    { value: '-1', label: 'One day back' },
  ];
  protected readonly person = computed(() => [
    { value: 'role', label: this.session.current()?.role ?? '', still: true },
    { value: 'own', label: 'Your password and sessions' },
    ...(this.session.may('people') ? [{ value: 'people', label: 'People and rights' }] : []),
    { value: 'mail', label: 'Mail room' },
    { value: 'calendar', label: 'Reminders in your calendar…' },
    { value: 'out', label: 'Sign out' },
  ]);

  protected workDateText(): string {
    return dayText(this.session.workDate(), '0000-00-00');
  }

  protected fold(): void {
    this.folded.update((folded) => !folded);
    localStorage.setItem('spine folded', this.folded() ? 'yes' : 'no');
  }

  constructor() {
    // Ready before it is first asked for.
    setTimeout(() => void this.windows().catch(() => undefined), 2000);
  }

  protected moveWorkDate(days: number): void {
    void this.session.moveWorkDate(addDays(this.session.workDate(), days));
  }

  protected ofPerson(chosen: string): void {
    if (chosen === 'out') void this.session.signOut();
    else if (chosen !== 'calendar') void this.router.navigateByUrl(`/${chosen}`);
    else void this.open('calendar');
  }

  protected async open(window: 'find' | 'keys' | 'calendar'): Promise<void> {
    const ahead = window === 'find' ? new TypedAhead() : null;
    const windows = await this.windows().catch(() => null);
    if (windows && ahead) windows.find(ahead);
    else if (windows && window !== 'find') windows[window]();
    else {
      ahead?.take();
      this.notices.show(OUT_OF_REACH_YET);
    }
  }

  private async windows() {
    const { Windows } = await import('./windows');
    return this.injector.get(Windows);
  }

  protected key(event: KeyboardEvent): void {
    const typing = /^(INPUT|SELECT|TEXTAREA)$/.test((event.target as HTMLElement).tagName);
    const place =
      event.altKey && /^Digit\d$/.test(event.code) ? NUMBERED[(Number(event.code.slice(5)) + 9) % 10] : undefined;
    if (event.ctrlKey && event.key.toLowerCase() === 'k') {
      event.preventDefault();
      void this.open('find');
    } else if (place) {
      event.preventDefault();
      void this.router.navigateByUrl(place.path);
    } else if (event.key === '?' && !typing) {
      void this.open('keys');
    } else if (event.altKey && event.key.toLowerCase() === 'g') {
      event.preventDefault();
      document.querySelector<HTMLElement>('k-grid .ag-cell, input.mark:not(:disabled)')?.focus();
    } else if (event.ctrlKey && event.key === 'Enter') {
      // The next step of what is on top: the side sheet where one is open, else the page.
      const within = document.querySelector('cdk-dialog-container') ? 'k-sheet footer' : '.title';
      document.querySelector<HTMLElement>(`${within} .act.next`)?.click();
    }
  }
}
