import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatMenuModule } from '@angular/material/menu';

export interface MenuEntry {
  value: string;
  label: string;
  /** Only to be read. */
  still?: boolean;
}

/** A quiet button of the band that opens a small menu. Fetched after the first page. */
@Component({
  selector: 'k-menu-button',
  imports: [MatMenuModule],
  template: `<button type="button" class="quiet" [matMenuTriggerFor]="menu"><ng-content /></button>
    <mat-menu #menu="matMenu">
      @for (entry of entries(); track entry.value) {
        <button mat-menu-item [disabled]="entry.still" (click)="chosen.emit(entry.value)">{{ entry.label }}</button>
      }
    </mat-menu>`,
  styleUrl: './quiet-button.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MenuButton {
  readonly entries = input.required<readonly MenuEntry[]>();
  readonly chosen = output<string>();
}
