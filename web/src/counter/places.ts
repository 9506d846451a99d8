import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';

/** The pages of the counter, from one to the other. */
@Component({
  selector: 'k-counter-places',
  imports: [RouterLink, RouterLinkActive],
  template: `@for (place of places; track place.path) {
    <a
      class="act"
      [routerLink]="place.path"
      routerLinkActive="here"
      ariaCurrentWhenActive="page"
      [routerLinkActiveOptions]="{ exact: true }"
      >{{ place.name }}</a
    >
  }`,
  styles: `
    :host {
      display: inline-flex;
    }
    a.here {
      text-decoration: underline;
      text-underline-offset: 5px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CounterPlaces {
  protected readonly places = [
    { path: '/counter', name: 'Counter' },
    { path: '/till', name: 'Till' },
    { path: '/slips', name: 'Slips' },
    { path: '/drawers', name: 'Drawers' },
  ];
}
