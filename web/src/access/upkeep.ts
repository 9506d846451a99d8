import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import type * as z from 'zod';
import * as contract from '@api/access';
import { Api } from '../kit/act/api';
import { Refusals } from '../kit/act/refusals';
import { counted, day, moment } from '../kit/formats';
import { liveDocument } from '../kit/live/live';
import { SecondPerson } from './second-person';
import { Session } from './session';

type Upkeep = z.infer<typeof contract.openUpkeep.out>;
type Attention = Upkeep['attention'][number];

const JOBS: Record<string, string> = { verify: 'Everything checked', backup: 'Copy made' };
const SEALED: Record<string, string> = {
  access: 'Comings and goings',
  audit: 'Changes',
  journal: 'Journals',
  stock: 'Stock entries',
};
/** What is to be looked at, in words. */
const LOOK_AT: Record<Attention['what'], (count: number, day: string) => string> = {
  differs: () => 'The last check found what differs from its documents: it is told below.',
  'not-checked': () => 'Nothing was checked for more than a day.',
  'not-copied': (count) =>
    count === 0
      ? 'Nothing was ever copied: start with --backup-to, or run npm run backup.'
      : 'No copy was made for more than a day.',
  files: (count, since) => `${counted(count, 'file')} brought in and not taken, the first since ${since}.`,
  invitations: (count, until) => `${counted(count, 'invitation')} nobody came by yet, the first until ${until}.`,
  tokens: (count, until) => `${counted(count, 'token')} of programs ends soon, the first on ${until}.`,
  rates: (count, since) => `${counted(count, 'currency', 'currencies')} in use with a rate of ${since} or before.`,
};
const LOOKS: Partial<Record<Attention['what'], { name: string; path: string; query?: Record<string, string> }>> = {
  files: { name: 'Bring in', path: '/bring-in' },
  invitations: { name: 'People', path: '/people' },
  tokens: { name: 'People', path: '/people' },
  rates: { name: 'Exchange rates', path: '/lists', query: { list: 'rates' } },
};
const PLACES = [
  { name: 'People', path: '/people' },
  { name: 'The trail', path: '/trail' },
  { name: 'Numbers', path: '/numbers' },
  { name: 'Letterhead', path: '/letterhead' },
];
const COMINGS: Record<string, string> = {
  'signed-in': 'signed in',
  refused: 'was refused',
  waits: 'has to wait',
  'signed-out': 'signed out',
  company: 'went to another company',
  export: 'took a file along',
  password: 'changed their password',
  factor: 'second factor',
};

/** How Kampong itself is: its checks and copies, its seals, and who came and went. */
@Component({
  selector: 'k-upkeep',
  imports: [Refusals, RouterLink],
  template: `<div class="page">
    <div class="title">
      <h1>
        Upkeep<span>{{ sub() }}</span>
      </h1>
      @for (place of places; track place.path) {
        <a class="act" [routerLink]="place.path">{{ place.name }}</a>
      }
    </div>
    <k-refusals [refusals]="live.state().refusals" />
    @if (live.state().value; as shown) {
      <div class="sheet halves">
        <section>
          @if (shown.attention.length > 0) {
            <h2>To look at</h2>
            <ul>
              @for (each of shown.attention; track each.what) {
                <li [class.bad]="each.what === 'differs'">
                  {{ saysOf(each) }}
                  @if (looks[each.what]; as place) {
                    <a class="link" [routerLink]="place.path" [queryParams]="place.query ?? {}">{{ place.name }}</a>
                  }
                </li>
              }
            </ul>
          }
          <h2>Needs a second person</h2>
          <k-refusals [refusals]="second.refusals()" />
          @for (kind of second.kinds; track kind.kind) {
            <label class="kind">
              <input
                type="checkbox"
                [checked]="second.on(kind.kind)"
                [disabled]="second.busy()"
                (change)="second.turn(kind.kind, $event)"
              />
              {{ kind.words }}
            </label>
          }
          <h2>Checks and copies</h2>
          <table class="small">
            <tbody>
              @for (job of shown.jobs; track $index) {
                <tr>
                  <td class="when">{{ jobs[job.job] ?? job.job }}</td>
                  <td class="when">{{ moment(job.at) }}</td>
                  <td class="num">{{ job.seconds }} s</td>
                  <td [class.bad]="!job.well">{{ job.found }}</td>
                </tr>
              } @empty {
                <tr>
                  <td class="faint">Nothing was checked or copied yet: the first check comes within minutes.</td>
                </tr>
              }
            </tbody>
          </table>
          <h2>Sealed</h2>
          <table class="small">
            <tbody>
              @for (seal of shown.seals; track seal.kind) {
                <tr>
                  <td>{{ sealed[seal.kind] ?? seal.kind }}</td>
                  <td class="when">{{ moment(seal.at) }}</td>
                  <td class="num">to {{ seal.through }}</td>
                  <td>
                    <code [title]="seal.hash">{{ seal.hash.slice(0, 16) }}</code>
                  </td>
                </tr>
              } @empty {
                <tr>
                  <td class="faint">Nothing is sealed yet.</td>
                </tr>
              }
            </tbody>
          </table>
          <h2>
            Stored <span class="faint">{{ size(shown.storage.bytes) }} in all</span>
          </h2>
          <table class="small">
            <tbody>
              @for (table of shown.storage.tables; track table.name) {
                <tr>
                  <td>{{ table.name.replaceAll('_', ' ') }}</td>
                  <td class="num">about {{ counted(table.rows, 'row') }}</td>
                  <td class="num">{{ size(table.bytes) }}</td>
                </tr>
              }
            </tbody>
          </table>
          <p class="faint">
            Node {{ shown.versions.node }}, database {{ shown.versions.database }}, as of
            {{ shown.versions.migration.replace('.sql', '') }}.
          </p>
        </section>
        <section>
          <h2>Signed in now</h2>
          <table class="small">
            <tbody>
              @for (each of shown.here; track each.person) {
                <tr>
                  <td>
                    <b>{{ each.person }}</b>
                    @if (each.windows > 1) {
                      <span class="faint">on {{ each.windows }} devices</span>
                    }
                  </td>
                  <td class="when">seen {{ moment(each.seen) }}</td>
                  <td class="when faint">since {{ moment(each.since) }}</td>
                </tr>
              }
            </tbody>
          </table>
          <h2>Who came and went</h2>
          <table class="small">
            <tbody>
              @for (coming of shown.comings; track coming.id) {
                <tr>
                  <td class="when">{{ moment(coming.at) }}</td>
                  <td>
                    <b>{{ coming.name }}</b> {{ comings[coming.what] ?? coming.what }}
                    @if (coming.detail) {
                      <span class="faint">{{ coming.detail }}</span>
                    }
                  </td>
                  <td class="faint">{{ coming.from }}</td>
                </tr>
              }
            </tbody>
          </table>
        </section>
      </div>
    }
  </div>`,
  styles: `
    .halves {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 0 40px;
      align-items: start;
      overflow: auto;
    }
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      padding: 4px 0;
      border-bottom: 1px solid var(--rule);
    }
    h2 span {
      font: 400 13px var(--sans);
    }
    .kind {
      display: flex;
      align-items: center;
      gap: 8px;
      min-height: 28px;
      accent-color: var(--deep);
    }
    h2 {
      font: 600 16px var(--serif);
      margin: 12px 0 6px;
    }
    td {
      vertical-align: baseline;
    }
    .when {
      white-space: nowrap;
    }
    .bad {
      color: var(--bad);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class UpkeepPage {
  private readonly api = inject(Api);
  protected readonly moment = moment;
  protected readonly jobs = JOBS;
  protected readonly sealed = SEALED;
  protected readonly comings = COMINGS;
  protected readonly looks = LOOKS;
  protected readonly places = PLACES;
  protected readonly counted = counted;
  private readonly session = inject(Session);
  protected readonly saysOf = ({ what, count, day: on }: Attention) =>
    LOOK_AT[what](count, on === null ? '' : day(on, this.session.workDate()));
  /** Bytes as people say them, in MB (10⁶) from one on. */
  protected readonly size = (bytes: number) =>
    bytes < 1_000_000
      ? `${Math.ceil(bytes / 1000)} kB`
      : `${(bytes / 1_000_000).toLocaleString('en', { maximumFractionDigits: 1 })} MB`;
  protected readonly second = new SecondPerson();
  protected readonly live = liveDocument<string, Upkeep>(
    this.session.workDate,
    () => this.api.call(contract.openUpkeep),
    () => false,
  );
  protected readonly sub = computed(() => {
    const last = this.live.state().value?.jobs.find(({ job }) => job === 'verify');
    if (!last) return 'how Kampong itself is';
    return last.well ? `all is as its documents say, ${moment(last.at)}` : 'something differs from its documents';
  });

  constructor() {
    inject(Title).setTitle('Upkeep');
  }
}
