import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Session } from '../access';
import { pathOf } from '../kit/documents';
import { day } from '../kit/formats';
import type { CustomerSheet, CustomerWork } from './service';

/** What was agreed with a party. */
@Component({
  selector: 'k-agreed',
  imports: [RouterLink],
  template: `<h2>Agreements</h2>
    <table class="small">
      <tbody>
        @for (agreement of agreements(); track agreement.document.id) {
          <tr>
            <td>
              <a class="link" [routerLink]="pathOf(agreement.document)">{{ agreement.document.number }}</a>
            </td>
            <td class="name">{{ agreement.title }}</td>
            <td>{{ agreement.state.replace('-', ' ') }}</td>
            <td>to {{ day(agreement.lastDay) }}</td>
          </tr>
        } @empty {
          <tr>
            <td class="faint">No agreement yet.</td>
          </tr>
        }
      </tbody>
    </table>`,
  styleUrl: '../kit/desk.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Agreed {
  readonly agreements = input.required<CustomerSheet['agreements']>();
  private readonly session = inject(Session);
  protected readonly pathOf = pathOf;
  protected readonly day = (value: string) => day(value, this.session.workDate());
}

/** What was sent to a party lately. */
@Component({
  selector: 'k-sent',
  imports: [RouterLink],
  template: `<h2>Mail <a class="link" routerLink="/mail" [queryParams]="{ q: party() }">all</a></h2>
    <table class="small">
      <tbody>
        @for (message of messages(); track message.id) {
          <tr>
            <td>{{ day(message.sentOn) }}</td>
            <td class="name">{{ message.subject }}</td>
            <td>{{ message.person }}</td>
          </tr>
        } @empty {
          <tr>
            <td class="faint">Nothing was sent to them yet.</td>
          </tr>
        }
      </tbody>
    </table>`,
  styleUrl: '../kit/desk.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Sent {
  readonly party = input.required<string>();
  readonly messages = input.required<CustomerWork['messages']>();
  private readonly session = inject(Session);
  protected readonly day = (value: string) => day(value, this.session.workDate());
}
