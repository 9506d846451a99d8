import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterLink } from '@angular/router';

@Component({
  selector: 'k-nowhere',
  imports: [RouterLink],
  template: `<div class="title">
    <h1>
      Nothing is at this address<span>It may have been mistyped. <a routerLink="/today">Go to Today</a></span>
    </h1>
  </div>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Nowhere {}
