import { afterNextRender, ChangeDetectionStrategy, Component, ElementRef, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import { firstVisit } from '@api/setup';
import { Api, refusalsOf, type RefusalShown } from '../kit/act/api';
import { TextField } from '../kit/fields/text-field';
import { Session } from './session';

@Component({
  selector: 'k-sign-in',
  imports: [TextField],
  template: `<main>
    <form (submit)="$event.preventDefault(); go()">
      <h1>Kampong</h1>
      <p>Promises to customers, and what will keep them.</p>
      <k-text label="Name" [(value)]="name" autocomplete="username" />
      <k-text
        label="Password"
        type="password"
        [most]="200"
        [(value)]="password"
        [error]="refused()"
        autocomplete="current-password"
      />
      @if (wantsCode()) {
        <k-text
          label="Six digits of your telephone"
          [most]="7"
          [(value)]="code"
          [error]="codeRefused()"
          autocomplete="one-time-code"
        />
      }
      <button class="act next" type="submit" [disabled]="busy()">Sign in</button>
    </form>
  </main>`,
  styles: `
    main {
      height: 100vh;
      display: grid;
      place-items: center;
    }
    form {
      width: 320px;
      display: grid;
      gap: 12px;
    }
    h1 {
      font: 600 34px var(--serif);
      color: var(--deep);
    }
    p {
      color: var(--ink-soft);
      margin-bottom: 8px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SignIn {
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  /** Where to go on after signing in. */
  readonly to = input<string>();
  protected readonly name = signal('');
  protected readonly password = signal('');
  protected readonly refused = signal('');
  protected readonly busy = signal(false);
  protected readonly code = signal('');
  /** The password fitted, and its person has a second factor. */
  protected readonly wantsCode = signal(false);
  protected readonly codeRefused = signal('');

  constructor() {
    afterNextRender(() => this.host.querySelector('input')?.focus());
    // Where nobody is yet, nobody can sign in.
    inject(Api)
      .call(firstVisit)
      .pipe(takeUntilDestroyed())
      .subscribe({
        next: ({ awaited }) => awaited && void this.router.navigateByUrl('/begin'),
        error: () => undefined,
      });
  }

  protected go(): void {
    this.busy.set(true);
    this.session.signIn(this.name(), this.password(), this.code()).subscribe({
      next: () => void this.router.navigateByUrl(this.to()?.startsWith('/') ? this.to()! : '/today'),
      error: (error: unknown) => {
        const [{ field, sentence }] = refusalsOf(error) as [RefusalShown];
        this.busy.set(false);
        this.refused.set(field === 'code' ? '' : sentence);
        if (field !== 'code') return;
        this.codeRefused.set(this.wantsCode() ? sentence : '');
        this.wantsCode.set(true);
        this.code.set('');
        setTimeout(() => this.host.querySelectorAll('input')[2]?.focus());
      },
    });
  }
}
