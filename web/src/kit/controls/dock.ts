import { ChangeDetectionStrategy, Component, input, model, signal } from '@angular/core';

const KEPT = 'dock height';

/** The dock: about the selected row. Its height is dragged (or moved with the arrows) and remembered. */
@Component({
  selector: 'k-dock',
  template: `<section [style.height.px]="height()" aria-label="Dock">
    <div
      class="grip"
      role="separator"
      tabindex="0"
      aria-orientation="horizontal"
      aria-label="Height of the dock"
      [attr.aria-valuenow]="height()"
      aria-valuemin="120"
      aria-valuemax="520"
      (pointerdown)="drag($event)"
      (keydown.arrowUp)="set(height() + 24)"
      (keydown.arrowDown)="set(height() - 24)"
    ></div>
    <nav role="tablist" aria-label="Dock">
      @for (tab of tabs(); track tab) {
        <button
          type="button"
          role="tab"
          [attr.aria-selected]="tab === chosen()"
          [tabindex]="tab === chosen() ? 0 : -1"
          (click)="chosen.set(tab)"
          (keydown.arrowRight)="step($event, 1)"
          (keydown.arrowLeft)="step($event, -1)"
        >
          {{ tab }}
        </button>
      }
      <span>{{ about() }}</span>
    </nav>
    <div class="body" role="tabpanel" tabindex="0" [attr.aria-label]="chosen()"><ng-content /></div>
  </section>`,
  styles: `
    /* A page that is nothing but its dock. */
    :host-context(.whole) {
      display: flex;
      flex: 1;
      min-height: 0;
    }
    :host-context(.whole) section {
      flex: 1;
      height: auto !important;
    }
    :host-context(.whole) .grip {
      display: none;
    }
    section {
      position: relative;
      background: var(--paper-sunk);
      border-top: 1px solid var(--rule-strong);
      display: flex;
      flex-direction: column;
      padding: 0 24px;
    }
    .grip {
      position: absolute;
      inset: -4px 0 auto;
      height: 12px;
      cursor: ns-resize;
      touch-action: none;
    }
    .grip::after {
      content: '';
      position: absolute;
      top: 7px;
      left: 50%;
      translate: -50%;
      width: 36px;
      height: 3px;
      border-radius: 2px;
      background: var(--rule-strong);
    }
    nav {
      display: flex;
      gap: 20px;
      padding-top: 8px;
      border-bottom: 1px solid var(--rule);
    }
    nav button {
      border: 0;
      background: none;
      padding: 2px 0 6px;
      color: var(--ink-soft);
      cursor: pointer;
      border-bottom: 2px solid transparent;
      margin-bottom: -1px;
    }
    nav button[aria-selected='true'] {
      color: var(--ink);
      font-weight: 600;
      border-color: var(--deep);
    }
    nav span {
      margin-left: auto;
      color: var(--ink-faint);
    }
    .body {
      flex: 1;
      min-height: 0;
      overflow: auto;
      padding: 10px 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Dock {
  readonly tabs = input.required<readonly string[]>();
  readonly chosen = model.required<string>();
  readonly about = input('');
  protected readonly height = signal(Number(localStorage.getItem(KEPT)) || 236);

  protected set(height: number): void {
    this.height.set(Math.min(520, Math.max(120, Math.round(height))));
    localStorage.setItem(KEPT, String(this.height()));
  }

  protected drag(event: PointerEvent): void {
    const grip = event.target as HTMLElement;
    const from = event.clientY + this.height();
    grip.setPointerCapture(event.pointerId);
    const move = (moved: PointerEvent) => this.set(from - moved.clientY);
    grip.addEventListener('pointermove', move);
    grip.addEventListener('lostpointercapture', () => grip.removeEventListener('pointermove', move), { once: true });
  }

  protected step(event: Event, by: number): void {
    event.preventDefault();
    const tabs = this.tabs();
    const next = (tabs.indexOf(this.chosen()) + by + tabs.length) % tabs.length;
    this.chosen.set(tabs[next]!);
    const buttons = (event.currentTarget as HTMLElement).parentElement!.querySelectorAll('button');
    queueMicrotask(() => buttons[next]?.focus());
  }
}
