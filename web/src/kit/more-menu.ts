import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatMenuModule } from '@angular/material/menu';

export interface MoreEntry {
  value: string;
  label: string;
}

/** What else can be done with a document, behind one quiet button of its title. */
@Component({
  selector: 'k-more-menu',
  imports: [MatMenuModule],
  template: `<button type="button" class="act" [matMenuTriggerFor]="menu">More</button>
    <mat-menu #menu="matMenu">
      @for (entry of entries(); track entry.value) {
        <button mat-menu-item (click)="chosen.emit(entry.value)">{{ entry.label }}</button>
      }
    </mat-menu>`,
  styles: `
    :host {
      display: contents;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MoreMenu {
  readonly entries = input.required<readonly MoreEntry[]>();
  readonly chosen = output<string>();
}
