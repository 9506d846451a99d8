import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Title } from '@angular/platform-browser';
import type * as z from 'zod';
import * as contract from '@api/access';
import { Api } from '../kit/act/api';
import { Refusals } from '../kit/act/refusals';
import { moment } from '../kit/formats';
import { liveDocument } from '../kit/live/live';
import { SecondPerson } from './second-person';
import { Session } from './session';

type Upkeep = z.infer<typeof contract.openUpkeep.out>;

const JOBS: Record<string, string> = { verify: 'Everything checked', backup: 'Copy made' };
const SEALED: Record<string, string> = {
  access: 'Comings and goings',
  audit: 'Changes',
  journal: 'Journals',
  stock: 'Stock entries',
};
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
  imports: [Refusals],
  template: `<div class="page">
    <div class="title">
      <h1>
        Upkeep<span>{{ sub() }}</span>
      </h1>
    </div>
    <k-refusals [refusals]="live.state().refusals" />
    @if (live.state().value; as shown) {
      <div class="sheet halves">
        <section>
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
        </section>
        <section>
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
  protected readonly second = new SecondPerson();
  protected readonly live = liveDocument<string, Upkeep>(
    inject(Session).workDate,
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
