import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatMenuModule } from '@angular/material/menu';

/** An entry of the menu: something to do, or a file. */
export interface MoreEntry {
  name: string;
  label: string;
  file?: string;
}

/** What else can be done with a document, behind one quiet button of its title. */
@Component({
  selector: 'k-more-menu',
  imports: [MatMenuModule],
  template: `<button type="button" class="act" [matMenuTriggerFor]="menu">More</button>
    <mat-menu #menu="matMenu">
      @for (entry of entries(); track entry.name) {
        @if (entry.file) {
          <a mat-menu-item target="_blank" [href]="entry.file">{{ entry.label }}</a>
        } @else {
          <button mat-menu-item (click)="chosen.emit(entry)">{{ entry.label }}</button>
        }
      }
    </mat-menu>`,
  styles: `
    :host {
      display: contents;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MoreMenu<Entry extends MoreEntry> {
  readonly entries = input.required<readonly Entry[]>();
  readonly chosen = output<Entry>();
}
