import { inject, Injectable, signal } from '@angular/core';
import { Router } from '@angular/router';
import type { DocumentRef } from '@core/kernel';
import { pathOf } from '../documents';

export interface Notice {
  text: string;
  document: DocumentRef | null;
  /** Takes back what was done, where the rules allow. */
  undo: (() => void) | null;
}

/** Quiet messages after an act: what was made, with a way to it. Shown by the frame, gone after a while. */
@Injectable({ providedIn: 'root' })
export class Notices {
  private readonly router = inject(Router);
  private timer: ReturnType<typeof setTimeout> | undefined;
  readonly shown = signal<Notice | null>(null);

  show(text: string, document: DocumentRef | null = null, undo: (() => void) | null = null): void {
    clearTimeout(this.timer);
    this.shown.set({ text, document, undo });
    this.timer = setTimeout(() => this.shown.set(null), 9000);
  }

  /** Takes back what the message is about; the message goes. */
  takeBack(): void {
    const undo = this.shown()?.undo;
    this.clear();
    undo?.();
  }

  clear(): void {
    clearTimeout(this.timer);
    this.shown.set(null);
  }

  /** Says what was made and goes there. */
  async showAndGo(text: string, document: DocumentRef): Promise<void> {
    this.show(text, document);
    await this.router.navigateByUrl(pathOf(document));
  }
}
