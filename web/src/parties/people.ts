import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Session } from '../access';
import type { CustomerSheet } from './service';

/** The people at a party: who is rung, and who rings. */
@Component({
  selector: 'k-people',
  imports: [RouterLink],
  template: `<h2>
      People
      @if (session.may('lists')) {
        <a class="link" routerLink="/lists" [queryParams]="{ list: list(), q: party() }">keep</a>
      }
    </h2>
    <table class="small">
      <tbody>
        @for (contact of contacts(); track contact.id) {
          <tr>
            <td>{{ contact.name }}</td>
            <td class="name">{{ contact.work }}</td>
            <td>
              @if (contact.phone) {
                <a class="link" [href]="'tel:' + contact.phone">{{ contact.phone }}</a>
              }
            </td>
            <td>
              @if (contact.email) {
                <a class="link" [href]="'mailto:' + contact.email">{{ contact.email }}</a>
              }
            </td>
          </tr>
        } @empty {
          <tr>
            <td class="faint">Nobody is kept yet.</td>
          </tr>
        }
      </tbody>
    </table>`,
  styleUrl: '../kit/desk.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class People {
  readonly party = input.required<string>();
  readonly contacts = input.required<CustomerSheet['contacts']>();
  /** The kept list they stand in. */
  readonly list = input.required<string>();
  protected readonly session = inject(Session);
}
