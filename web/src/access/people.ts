import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Title } from '@angular/platform-browser';
import { from, merge, type Observable } from 'rxjs';
import { switchMap } from 'rxjs/operators';
import type * as z from 'zod';
import * as contract from '@api/access';
import type { Right } from '@api/access';
import { readTypedDay } from '@core/typed';
import { Api, ASKED_FOR_STATUS, Refused, refusalsOf, type RefusalShown } from '../kit/act/api';
import { Notices } from '../kit/act/notices';
import { refusedAt, Refusals } from '../kit/act/refusals';
import { ChoiceField } from '../kit/fields/choice-field';
import { TextField } from '../kit/fields/text-field';
import { counted, day, moment } from '../kit/formats';
import { liveDocument, LiveEvents } from '../kit/live/live';
import { newWord, RIGHT_GROUPS } from './rights-words';
import { Session } from './session';

type People = z.infer<typeof contract.openPeople.out>;
type Role = People['roles'][number];

/** Who works here, what each role may do, who is invited, and which programs have tokens. // U4 */
@Component({
  selector: 'k-people-page',
  imports: [ChoiceField, Refusals, TextField],
  templateUrl: './people.html',
  styleUrl: './people.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PeoplePage {
  private readonly api = inject(Api);
  protected readonly session = inject(Session);
  private readonly notices = inject(Notices);
  private readonly live = liveDocument<string, People>(
    this.session.workDate,
    () => this.api.call(contract.openPeople),
    () => false,
  );
  protected readonly people = computed(() => this.live.state().value);
  protected readonly groups = RIGHT_GROUPS;
  protected readonly refused = signal<readonly RefusalShown[]>([]);
  protected readonly refusals = computed(() => [
    ...this.live.state().refusals,
    ...this.refused().filter(({ field }) => !FIELDS.has(field)),
  ]);
  protected readonly busy = signal(false);
  protected readonly invite = { name: signal(''), roleId: signal(''), days: signal('7') };
  protected readonly token = { name: signal(''), roleId: signal(''), lastDay: signal('') };
  protected readonly roleName = signal('');
  /** A link or token that was just made: shown once. */
  protected readonly made = signal<{ head: string; word: string; kind: 'link' | 'token' } | null>(null);
  protected readonly roles = computed(() =>
    (this.people()?.roles ?? []).map(({ id, name }) => ({ value: String(id), label: name })),
  );
  protected readonly sub = computed(() => {
    const here = this.people()?.people.filter(({ outOfUse }) => !outOfUse).length ?? 0;
    return `${counted(here, 'person', 'people')} in ${counted(this.roles().length, 'role')}`;
  });
  protected readonly moment = moment;
  protected readonly day = (value: string) => day(value, this.session.workDate());

  constructor() {
    inject(Title).setTitle('People · Kampong');
    const events = inject(LiveEvents);
    const acts = ['invitePerson', 'withdrawInvitation', 'changePerson', 'keepRole', 'makeToken', 'endToken'] as const;
    merge(...acts.map((act) => events.doing(act)))
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.live.reload());
  }

  protected at(form: string, field: string): string {
    return this.form() === form ? refusedAt(this.refused(), field) : '';
  }
  /** The form what is refused belongs to. */
  private readonly form = signal('');

  protected roleOf(id: number): string {
    return this.people()?.roles.find((role) => role.id === id)?.name ?? '';
  }

  private do(form: string, act: Observable<unknown>, done: () => void = () => undefined): void {
    if (this.busy()) return;
    this.busy.set(true);
    this.form.set(form);
    this.refused.set([]);
    act.subscribe({
      next: () => {
        this.busy.set(false);
        done();
        this.live.reload();
      },
      error: (error: unknown) => {
        this.busy.set(false);
        if (error instanceof Refused && error.status === ASKED_FOR_STATUS) this.notices.show(error.message);
        else this.refused.set(refusalsOf(error));
        this.live.reload();
      },
    });
  }

  protected inviting(): void {
    const { name, roleId, days } = this.invite;
    const role = Number(roleId() || this.roles()[0]?.value);
    let word = '';
    const act = from(newWord()).pipe(
      switchMap((made) => {
        word = made.word;
        return this.api.act(contract.invitePerson, {
          name: name(),
          roleId: role,
          days: Number(days()) || 0,
          tokenHash: made.hash,
        });
      }),
    );
    this.do('invite', act, () => {
      this.made.set({
        head: `The link for ${name()}, good for ${counted(Number(days()), 'day')} and one person`,
        word: `${location.origin}/join#${word}`,
        kind: 'link',
      });
      name.set('');
    });
  }

  protected withdraw(id: number): void {
    this.do('', this.api.act(contract.withdrawInvitation, { id }));
  }

  protected change(person: People['people'][number], change: { roleId?: number; outOfUse?: boolean }): void {
    const { id, roleId, outOfUse } = person;
    this.do('', this.api.act(contract.changePerson, { personId: id, roleId, outOfUse, ...change }), () =>
      this.notices.show(
        change.outOfUse
          ? `${person.name} works here no more; what they had open has ended.`
          : `${person.name} changed.`,
      ),
    );
  }

  protected turn(role: Role, right: Right): void {
    const rights = role.rights.includes(right) ? role.rights.filter((each) => each !== right) : [...role.rights, right];
    this.do('', this.api.act(contract.keepRole, { id: role.id, name: role.name, rights }));
  }

  protected addRole(): void {
    this.do('role', this.api.act(contract.keepRole, { id: null, name: this.roleName(), rights: [] }), () =>
      this.roleName.set(''),
    );
  }

  protected makingToken(): void {
    const { name, roleId, lastDay } = this.token;
    const role = this.people()!.roles.find(({ id }) => String(id) === (roleId() || this.roles()[0]?.value));
    let word = '';
    const act = from(newWord()).pipe(
      switchMap((made) => {
        word = made.word;
        return this.api.act(contract.makeToken, {
          name: name(),
          rights: role?.rights ?? [],
          lastDay: readTypedDay(lastDay(), this.session.workDate()),
          tokenHash: made.hash,
        });
      }),
    );
    this.do('token', act, () => {
      this.made.set({ head: `The token of ${name()}`, word, kind: 'token' });
      name.set('');
    });
  }

  protected endToken(id: number): void {
    this.do('', this.api.act(contract.endToken, { id }));
  }

  protected copy(text: string): void {
    void navigator.clipboard.writeText(text).then(() => this.notices.show('Copied.'));
  }
}

/** Fields that show themselves what is refused of them. */
const FIELDS = new Set(['name', 'roleId', 'days', 'lastDay']);
