import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type * as z from 'zod';
import type { SerialRef } from '@api/serial';
import { pathOf } from '../kit/documents';

/** The numbers of pieces, each leading to its life. // W7 */
@Component({
  selector: 'k-numbers',
  imports: [RouterLink],
  template: `@for (piece of numbers(); track piece.id; let last = $last) {
    <a class="link" [class.gone]="piece.place === 'out'" [routerLink]="pathOf({ kind: 'serial', id: piece.id })">{{
      piece.number
    }}</a>{{ last ? '' : ', ' }}
  }`,
  styles: `
    :host {
      font-size: 12.5px;
      font-variant-numeric: tabular-nums;
    }
    .gone {
      text-decoration: line-through;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Numbers {
  readonly numbers = input.required<readonly z.infer<typeof SerialRef>[]>();
  protected readonly pathOf = pathOf;
}
