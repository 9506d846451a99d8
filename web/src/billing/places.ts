import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Session } from '../access';

const PLACES = [
  { path: '/billing', name: 'Invoices' },
  { path: '/credit-notes', name: 'Credit notes' },
  { path: '/prepayments', name: 'Prepayments' },
  { path: '/open-by-age', name: 'Owed by age' },
  { path: '/accounts', name: 'Accounts', needs: 'see-costs' },
] as const;

/** From one page of billing to the others. */
@Component({
  selector: 'k-billing-places',
  imports: [RouterLink],
  template: `@for (place of places; track place.path) {
    @if (place.path !== at()) {
      <a class="act" [routerLink]="place.path">{{ place.name }}</a>
    }
  }`,
  styles: `
    :host {
      display: contents;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BillingPlaces {
  readonly at = input.required<(typeof PLACES)[number]['path']>();
  private readonly session = inject(Session);
  protected readonly places = PLACES.filter((place) => !('needs' in place) || this.session.may(place.needs));
}
