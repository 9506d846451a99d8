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
    section {
      background: var(--paper-lift);
      border: 1px solid var(--rule-strong);
      border-radius: 6px;
      padding: 18px 22px;
      box-shadow: 0 14px 40px rgb(0 0 0 / 22%);
    }
    h2 {
      font: 600 18px var(--serif);
      margin-bottom: 8px;
    }
    button {
      margin-top: 10px;
    }
    kbd {
      font: 13px var(--sans);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Keys {
  protected readonly keys = KEYS;
  protected readonly ref = inject(DialogRef);
}
