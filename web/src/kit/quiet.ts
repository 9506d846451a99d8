import { inject, Injectable, signal } from '@angular/core';
import { Router } from '@angular/router';
import type { DocumentRef } from '@core/kernel';
import { pathOf } from './documents';

export interface Said {
  text: string;
  document: DocumentRef | null;
}

/** Quiet messages after an act: what was made, with a way to it. Shown by the frame, gone after a while. */
@Injectable({ providedIn: 'root' })
export class Quiet {
  private readonly router = inject(Router);
  private timer: ReturnType<typeof setTimeout> | undefined;
  readonly said = signal<Said | null>(null);

  say(text: string, document: DocumentRef | null = null): void {
    clearTimeout(this.timer);
    this.said.set({ text, document });
    this.timer = setTimeout(() => this.said.set(null), 9000);
  }

  hush(): void {
    clearTimeout(this.timer);
    this.said.set(null);
  }

  /** Says what was made and goes there. */
  async lead(text: string, document: DocumentRef): Promise<void> {
    this.say(text, document);
    await this.router.navigateByUrl(pathOf(document));
  }
}
