import { computed, inject, Injectable, signal } from '@angular/core';
import { Router } from '@angular/router';
import { firstValueFrom, type Observable } from 'rxjs';
import { map, tap } from 'rxjs/operators';
import type * as z from 'zod';
import * as contract from '@api/access';
import { Api } from '../kit/act/api';
import { Notices } from '../kit/act/notices';
import { moment } from '../kit/formats';
import { LiveEvents } from '../kit/live/live';

export type SessionOut = z.infer<typeof contract.Session>;

/** Who is signed in, for which company, on which work date. */
@Injectable({ providedIn: 'root' })
export class Session {
  private readonly api = inject(Api);
  private readonly events = inject(LiveEvents);
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  private readonly kept = signal<SessionOut | null>(null);
  private asked: Promise<void> | null = null;

  readonly current = this.kept.asReadonly();
  readonly workDate = computed(() => this.kept()?.workDate ?? '2000-01-01');
  readonly company = computed(() => this.kept()?.company ?? null);
  private readonly rights = computed(() => new Set(this.kept()?.rights));

  /** Whether the signed-in person may do what a right is for. */
  may(right: SessionOut['rights'][number]): boolean {
    return this.rights().has(right);
  }

  constructor() {
    // Asked again: a session that ended shows where one signs in.
    this.events.onRefused = () =>
      this.api.call(contract.session).subscribe(({ session }) => session ?? this.api.onSignedOut());
    this.events.onElsewhere = ({ at, from }) =>
      this.notices.show(
        `You signed in elsewhere, ${moment(at)}, from ${from}. If that was not you, tell whoever looks after Kampong.`,
      );
    this.api.onSignedOut = () => {
      if (!this.kept()) return;
      this.take(null);
      void this.router.navigate(['/sign-in'], { queryParams: { to: this.router.url } });
    };
  }

  /** Asks once who is signed in; resolves whether anybody is. */
  async known(): Promise<boolean> {
    this.asked ??= firstValueFrom(this.api.call(contract.session)).then(({ session }) => this.take(session));
    await this.asked.catch(() => (this.asked = null));
    return this.kept() !== null;
  }

  signIn(signIn: string, password: string, code: string): Observable<void> {
    return this.taking(this.api.call(contract.signIn, { body: { signIn, password, code } }));
  }

  /** Whoever was let in by that answer is here from now on. */
  taking(answer: Observable<SessionOut>): Observable<void> {
    return answer.pipe(
      tap((session) => {
        this.take(session);
        this.events.all();
      }),
      map(() => undefined),
    );
  }

  async signOut(): Promise<void> {
    await firstValueFrom(this.api.call(contract.signOut, { body: {} }));
    this.take(null);
    await this.router.navigateByUrl('/sign-in');
  }

  async chooseCompany(companyId: number): Promise<void> {
    const session = await firstValueFrom(this.api.call(contract.chooseCompany, { body: { companyId } }));
    this.take(session);
    await this.router.navigateByUrl('/today');
    this.events.all();
  }

  async moveWorkDate(workDate: string): Promise<void> {
    await firstValueFrom(this.api.act(contract.moveWorkDate, { workDate }));
    const { session } = await firstValueFrom(this.api.call(contract.session));
    this.take(session);
    this.events.all();
  }

  private take(session: SessionOut | null): void {
    this.kept.set(session);
    this.api.token = session?.token ?? '';
    document.documentElement.style.setProperty('--company', session?.company.tint ?? '#0d5552');
    if (session) this.events.start();
    else this.events.stop();
  }
}
