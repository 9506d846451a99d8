import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import { of, Subject } from 'rxjs';
import { catchError, startWith, switchMap } from 'rxjs/operators';
import { countryName } from '@core/kernel';
import { keepLogo, openLetterhead } from '@api/formats';
import { Session } from '../access';
import { Api, refusalsOf, type RefusalShown } from '../kit/act/api';
import { Notices } from '../kit/act/notices';
import { Refusals } from '../kit/act/refusals';

/** Our letterhead as it stands on paper: its words are kept in a list, its logo here. */
@Component({
  selector: 'k-letterhead',
  imports: [Refusals, RouterLink],
  template: `<div class="page">
    <div class="title">
      <h1><b>Our letterhead</b><span>as it stands on what customers and vendors get of us</span></h1>
      <a class="act" routerLink="/lists" [queryParams]="{ list: 'letterhead' }">Change the words…</a>
      @if (session.may('upkeep')) {
        @if (shown()?.logo) {
          <button type="button" class="act" (click)="keep('')">Take the logo off</button>
        }
        <label class="act next"
          >Choose a logo…<input
            type="file"
            accept="image/png,image/jpeg"
            aria-label="Logo, a PNG or JPEG"
            (change)="read($any($event.target).files[0])"
        /></label>
      }
    </div>
    <k-refusals [refusals]="refused()" />
    @if (shown(); as us) {
      <section class="paper" aria-label="As it stands on paper">
        <div class="top">
          @if (us.logo) {
            <img [src]="us.logo" [alt]="'Logo of ' + us.name" />
          } @else {
            <b>{{ us.name }}</b>
          }
          <small>
            @if (us.logo) {
              <b>{{ us.name }}</b>
            }
            <span>{{ us.street }}</span>
            <span>{{ us.postcode }} {{ us.town }}{{ us.country ? ', ' + countryName(us.country) : '' }}</span>
            <span>{{ us.phone }}</span>
            <span>{{ us.email }}</span>
          </small>
        </div>
        <p class="faint">{{ us.name }} · {{ us.street }} · {{ us.postcode }} {{ us.town }}</p>
        <p>The name of a customer<br />and where they are</p>
        <p class="foot faint">
          registered {{ us.registration || 'nowhere said' }} · tax number {{ us.taxNumber || 'not said' }} · pay to
          {{ us.bank }} {{ us.bankAccount || 'no account said' }}
        </p>
      </section>
    }
  </div>`,
  styles: `
    .paper {
      margin: 12px 24px;
      padding: 36px 44px 14px;
      width: min(720px, 92%);
      background: var(--paper-lift);
      border: 1px solid var(--rule);
    }
    .top {
      display: flex;
      justify-content: space-between;
      font-size: 17px;
      margin-bottom: 40px;
    }
    img {
      max-width: 220px;
      max-height: 72px;
    }
    .top small span,
    .top small b {
      display: block;
      text-align: right;
      font-size: 12px;
    }
    .faint {
      font-size: 12px;
    }
    .foot {
      text-align: left;
      margin-top: 120px;
      border-top: 1px solid var(--rule);
      padding-top: 8px;
    }
    label.act input {
      position: absolute;
      opacity: 0;
      width: 1px;
    }
    label.act:focus-within {
      outline: 2px solid var(--ink);
      outline-offset: 2px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LetterheadPage {
  protected readonly session = inject(Session);
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly again = new Subject<void>();
  protected readonly refused = signal<readonly RefusalShown[]>([]);
  protected readonly shown = toSignal(
    this.again.pipe(
      startWith(undefined),
      switchMap(() => this.api.call(openLetterhead).pipe(catchError(() => of(null)))),
    ),
  );
  protected readonly countryName = countryName;

  constructor() {
    inject(Title).setTitle('Our letterhead · Kampong');
  }

  protected read(file: File | undefined): void {
    if (!file) return;
    const reader = new FileReader();
    reader.onload = () => this.keep(String(reader.result).split(',')[1] ?? '');
    reader.readAsDataURL(file);
  }

  protected keep(image: string): void {
    this.api.act(keepLogo, { image }).subscribe({
      next: () => {
        this.refused.set([]);
        this.again.next();
        this.notices.show(image ? 'The logo stands on our paper.' : 'The logo is taken off.');
      },
      error: (error: unknown) => this.refused.set(refusalsOf(error)),
    });
  }
}
