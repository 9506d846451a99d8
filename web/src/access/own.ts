import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { Title } from '@angular/platform-browser';
import type { Observable } from 'rxjs';
import type * as z from 'zod';
import * as contract from '@api/access';
import { Api, refusalsOf, type RefusalShown } from '../kit/act/api';
import { Notices } from '../kit/act/notices';
import { refusedAt, Refusals } from '../kit/act/refusals';
import { TextField } from '../kit/fields/text-field';
import { counted, moment } from '../kit/formats';
import { liveDocument } from '../kit/live/live';
import { Session } from './session';

type Own = z.infer<typeof contract.openOwn.out>;
type Form = 'password' | 'factor';

/** One's own password, second factor and sessions. // U4 */
@Component({
  selector: 'k-own',
  imports: [Refusals, TextField],
  template: `<div class="page">
    <div class="title">
      <h1>
        <b>{{ session.current()?.person?.name }}</b><span
          >your password, your second factor, where you are signed in</span
        >
      </h1>
    </div>
    <k-refusals [refusals]="loose()" />
    @if (own(); as shown) {
      <div class="all">
        <section aria-label="Password">
          <h2>Password</h2>
          <form (submit)="$event.preventDefault(); changePassword()">
            <k-text
              label="Password now"
              type="password"
              [most]="200"
              [(value)]="now"
              [error]="at('password', 'now')"
              autocomplete="current-password"
            />
            <k-text
              label="From now on"
              type="password"
              [most]="200"
              [(value)]="then"
              [error]="at('password', 'then')"
              autocomplete="new-password"
            />
            <button type="submit" class="act next" [disabled]="busy()">Change the password</button>
          </form>
        </section>
        <section aria-label="Second factor">
          <h2>Second factor</h2>
          @if (shown.secondFactor) {
            <p>Signing in asks for six digits of your telephone.</p>
            <form (submit)="$event.preventDefault(); keepFactor('')">
              <k-text
                label="Your password"
                type="password"
                [most]="200"
                [(value)]="factorPassword"
                [error]="at('factor', 'password')"
                autocomplete="current-password"
              />
              <button type="submit" class="act" [disabled]="busy()">Turn it off</button>
            </form>
          } @else if (secret(); as fresh) {
            <p>Show this to the program for codes on your telephone, then type the six digits it shows.</p>
            <img [src]="fresh.picture" alt="Code to be read by a telephone" width="160" height="160" />
            <p class="faint">
              or type <code>{{ fresh.secret }}</code>
            </p>
            <form (submit)="$event.preventDefault(); keepFactor(fresh.secret)">
              <k-text
                label="Six digits"
                [most]="7"
                [(value)]="code"
                [error]="at('factor', 'code')"
                autocomplete="one-time-code"
              />
              <button type="submit" class="act next" [disabled]="busy()">Turn it on</button>
            </form>
          } @else {
            <p>With it, a password alone lets nobody in as you.</p>
            <form (submit)="$event.preventDefault(); beginFactor()">
              <k-text
                label="Your password"
                type="password"
                [most]="200"
                [(value)]="factorPassword"
                [error]="at('factor', 'password')"
                autocomplete="current-password"
              />
              <button type="submit" class="act" [disabled]="busy()">Begin…</button>
            </form>
          }
        </section>
        <section aria-label="Where you are signed in">
          <h2>Where you are signed in</h2>
          @for (each of shown.sessions; track each.mark) {
            <p class="line">
              <span>{{ each.company }}, since {{ moment(each.begunAt) }}, last used {{ moment(each.seenAt) }}</span>
              @if (each.this) {
                <span class="faint">here</span>
              } @else {
                <button type="button" class="act" (click)="end(each.mark)">End it</button>
              }
            </p>
          }
        </section>
      </div>
    }
  </div>`,
  styles: `
    .all {
      overflow: auto;
      padding: 0 24px 24px;
      max-width: 760px;
    }
    h2 {
      font: 600 16px var(--serif);
      margin: 16px 0 6px;
    }
    form {
      display: flex;
      gap: 12px;
      align-items: flex-end;
    }
    form k-text {
      width: 220px;
    }
    .line {
      display: flex;
      justify-content: space-between;
      border-top: 1px solid var(--rule);
      padding: 4px 0;
    }
    img {
      background: white;
      padding: 8px;
      margin: 8px 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OwnPage {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  protected readonly session = inject(Session);
  private readonly live = liveDocument<string, Own>(
    this.session.workDate,
    () => this.api.call(contract.openOwn),
    () => false,
  );
  protected readonly own = computed(() => this.live.state().value);
  protected readonly busy = signal(false);
  private readonly form = signal<Form | ''>('');
  private readonly refused = signal<readonly RefusalShown[]>([]);
  protected readonly now = signal('');
  protected readonly then = signal('');
  protected readonly factorPassword = signal('');
  protected readonly code = signal('');
  protected readonly secret = signal<z.infer<typeof contract.beginSecondFactor.out> | null>(null);
  protected readonly moment = moment;
  protected readonly loose = computed(() => [
    ...this.live.state().refusals,
    ...this.refused().filter(({ field }) => !['now', 'then', 'password', 'code'].includes(field)),
  ]);

  constructor() {
    inject(Title).setTitle('You · Kampong');
  }

  protected at(form: Form, field: string): string {
    return this.form() === form ? refusedAt(this.refused(), field) : '';
  }

  private do<T>(form: Form | '', asked: Observable<T>, done: (answer: T) => void): void {
    if (this.busy()) return;
    this.busy.set(true);
    this.form.set(form);
    this.refused.set([]);
    asked.subscribe({
      next: (answer) => {
        this.busy.set(false);
        done(answer);
        this.live.reload();
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.refused.set(refusalsOf(error));
      },
    });
  }

  protected changePassword(): void {
    const body = { now: this.now(), then: this.then() };
    this.do('password', this.api.call(contract.changePassword, { body }), ({ ended }) => {
      this.now.set('');
      this.then.set('');
      this.notices.show(
        ended > 0 ? `Changed; ${counted(ended, 'other session')} of yours ended.` : 'The password is changed.',
      );
    });
  }

  protected beginFactor(): void {
    const body = { password: this.factorPassword() };
    this.do('factor', this.api.call(contract.beginSecondFactor, { body }), (secret) => this.secret.set(secret));
  }

  protected keepFactor(secret: string): void {
    const body = { password: this.factorPassword(), secret, code: this.code() };
    this.do('factor', this.api.call(contract.keepSecondFactor, { body }), ({ secondFactor }) => {
      this.secret.set(null);
      this.code.set('');
      this.factorPassword.set('');
      this.notices.show(secondFactor ? 'Signing in asks for your telephone from now on.' : 'The second factor is off.');
    });
  }

  protected end(mark: string): void {
    this.do('', this.api.call(contract.endOwnSession, { body: { mark } }), () => this.notices.show('Ended.'));
  }
}
