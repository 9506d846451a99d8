import { inject, Injectable, signal } from '@angular/core';
import { of, type Observable } from 'rxjs';
import { map } from 'rxjs/operators';
import type * as z from 'zod';
import * as catalogue from '@api/catalogue';
import { Api } from '../act/api';

export type Location = z.infer<typeof catalogue.locations.out>['rows'][number];

/** Where goods are kept, the main location first; a choice only where there are several. // S1 */
@Injectable({ providedIn: 'root' })
export class Locations {
  private readonly api = inject(Api);
  readonly all = signal<readonly Location[]>([]);

  /** Them once they are known. */
  known(): Observable<readonly Location[]> {
    if (this.all().length > 0) return of(this.all());
    return this.api.call(catalogue.locations).pipe(map(({ rows }) => rows));
  }

  /** Reads them, for a page that lets one choose: the list is short and seldom changes. */
  read(): void {
    this.api.call(catalogue.locations).subscribe({
      next: ({ rows }) => this.all.set(rows),
      // Without them everything is at the main one, which the server takes where nothing is said.
      error: () => this.all.set([]),
    });
  }
}
