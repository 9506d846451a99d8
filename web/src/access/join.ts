import { afterNextRender, ChangeDetectionStrategy, Component, ElementRef, inject, signal } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { Router } from '@angular/router';
import type * as z from 'zod';
import { LEAST_PASSWORD } from '@core/access';
import * as contract from '@api/access';
import { Api, refusalsOf, type RefusalShown } from '../kit/act/api';
import { refusedAt, Refusals } from '../kit/act/refusals';
import { TextField } from '../kit/fields/text-field';
import { Session } from './session';

/** Where a link of an invitation leads: its word stands behind the mark of the address, and is told to no log. // U4 */
@Component({
  selector: 'k-join',
  imports: [Refusals, TextField],
  template: `<main>
    <form (submit)="$event.preventDefault(); go()">
      <h1>Kampong</h1>
      @if (invited(); as to) {
        <p>
          You are invited to <b>{{ to.company }}</b> as {{ to.role }}. Who works elsewhere in this installation already
          comes by their own name and password.
        </p>
        <k-text label="Your name" [most]="120" [(value)]="name" [error]="at('name')" autocomplete="name" />
        <k-text label="Sign in as" [(value)]="signIn" [error]="at('signIn')" autocomplete="username" />
        <k-text
          label="Password"
          type="password"
          [most]="200"
          [(value)]="password"
          [error]="at('password')"
          [hint]="least + ' letters or more; a few words are good'"
          autocomplete="new-password"
        />
        @if (wantsCode()) {
          <k-text
            label="Six digits of your telephone"
            [most]="7"
            [(value)]="code"
            [error]="at('code')"
            autocomplete="one-time-code"
          />
        }
        <button class="act next" type="submit" [disabled]="busy()">Come in</button>
      }
      <k-refusals [refusals]="loose()" />
    </form>
  </main>`,
  styles: `
    main {
      height: 100vh;
      display: grid;
      place-items: center;
    }
    form {
      width: 360px;
      display: grid;
      gap: 12px;
    }
    h1 {
      font: 600 34px var(--serif);
      color: var(--deep);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class JoinPage {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  private readonly token = location.hash.slice(1);
  protected readonly invited = signal<z.infer<typeof contract.lookAtInvitation.out> | null>(null);
  private readonly refused = signal<readonly RefusalShown[]>([]);
  protected readonly name = signal('');
  protected readonly signIn = signal('');
  protected readonly password = signal('');
  protected readonly busy = signal(false);
  protected readonly code = signal('');
  /** Who is there already, and has a second factor. */
  protected readonly wantsCode = signal(false);
  protected readonly least = LEAST_PASSWORD;
  protected readonly at = (field: string) => refusedAt(this.refused(), field);
  protected readonly loose = () =>
    this.refused().filter(({ field }) => !['name', 'signIn', 'password', 'code'].includes(field));

  constructor() {
    inject(Title).setTitle('Invited · Kampong');
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    this.api.call(contract.lookAtInvitation, { body: { token: this.token } }).subscribe({
      next: (invited) => {
        this.invited.set(invited);
        this.name.set(invited.name);
        setTimeout(() => host.querySelectorAll('input')[1]?.focus());
      },
      error: (error: unknown) => this.refused.set(refusalsOf(error)),
    });
    afterNextRender(() => host.querySelector('input')?.focus());
  }

  protected go(): void {
    this.busy.set(true);
    const body = {
      token: this.token,
      name: this.name(),
      signIn: this.signIn(),
      password: this.password(),
      code: this.code(),
    };
    this.session.taking(this.api.call(contract.join, { body })).subscribe({
      next: () => void this.router.navigateByUrl('/today'),
      error: (error: unknown) => {
        this.refused.set(refusalsOf(error));
        if (this.at('code')) this.wantsCode.set(true);
        this.busy.set(false);
      },
    });
  }
}
