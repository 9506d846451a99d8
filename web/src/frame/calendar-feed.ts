import { DialogRef } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { renewCalendar } from '@api/agreements';
import { Api, refusalsOf, type RefusalShown } from '../kit/act/api';
import { Refusals } from '../kit/act/refusals';

/** Makes the private address under which a calendar program reads reminders and last days. // A9, RFC 5545 */
@Component({
  selector: 'k-calendar-feed',
  imports: [Refusals],
  template: `<section aria-labelledby="feed-title">
    <h2 id="feed-title">Reminders in your calendar</h2>
    <p>
      A calendar program that reads iCalendar addresses shows the last day of every agreement in force and its
      reminders, and keeps up by itself. Whoever has the address can read them. A new one stops the one before.
    </p>
    @if (address(); as address) {
      <p class="address">
        <input readonly aria-label="Private address" [value]="address" (focus)="$any($event.target).select()" />
        <button type="button" class="act" (click)="copy(address)">{{ copied() ? 'Copied' : 'Copy' }}</button>
      </p>
      <p>It is shown this once: only its fingerprint is kept.</p>
    }
    <k-refusals [refusals]="refusals()" />
    <p>
      <button type="button" class="act" [class.next]="!address()" data-first [disabled]="busy()" (click)="make()">
        {{ address() ? 'Make another' : 'Make a private address' }}
      </button>
      <button type="button" class="act" (click)="ref.close()">Close</button>
    </p>
  </section>`,
  styles: `
    section {
      width: min(540px, 92vw);
    }
    .address {
      display: flex;
      gap: 8px;
    }
    input {
      flex: 1;
      font: 13px var(--sans);
    }
    button {
      margin-right: 8px;
    }
  `,
  styleUrl: './window.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CalendarFeed {
  private readonly api = inject(Api);
  protected readonly ref = inject(DialogRef);
  protected readonly address = signal('');
  protected readonly copied = signal(false);
  protected readonly busy = signal(false);
  protected readonly refusals = signal<RefusalShown[]>([]);

  protected make(): void {
    this.busy.set(true);
    this.refusals.set([]);
    this.api.call(renewCalendar, { body: {} }).subscribe({
      next: ({ path }) => {
        this.address.set(location.origin + path);
        this.copied.set(false);
        this.busy.set(false);
      },
      error: (error: unknown) => {
        this.refusals.set(refusalsOf(error));
        this.busy.set(false);
      },
    });
  }

  protected copy(address: string): void {
    void navigator.clipboard.writeText(address).then(() => this.copied.set(true));
  }
}
