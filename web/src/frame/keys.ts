import { DialogRef } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { KEYS } from './places';

@Component({
  selector: 'k-keys',
  template: `<section aria-labelledby="keys-title">
    <h2 id="keys-title">Keys</h2>
    <table class="small">
      <tbody>
        @for (key of keys; track key[0]) {
          <tr>
            <td>
              <kbd>{{ key[0] }}</kbd>
            </td>
            <td>{{ key[1] }}</td>
          </tr>
        }
      </tbody>
    </table>
    <button class="act" type="button" data-first (click)="ref.close()">Close</button>
  </section>`,
  styles: `
    button {
      margin-top: 10px;
    }
    kbd {
      font: 13px var(--sans);
    }
  `,
  styleUrl: './window.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Keys {
  protected readonly keys = KEYS;
  protected readonly ref = inject(DialogRef);
}
