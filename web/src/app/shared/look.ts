import { inject, Injectable } from '@angular/core';
import { ActivatedRoute, Router } from '@angular/router';

/** What is looked at stands in the address bar, so that a link brings another to the same place. */
@Injectable({ providedIn: 'root' })
export class Look {
  private readonly router = inject(Router);

  at(route: ActivatedRoute, query: { report?: number | null; page?: number | null; step?: string | null; pages?: string | null; add?: string | null }, replace = true) {
    void this.router.navigate([], { relativeTo: route, queryParams: query, queryParamsHandling: 'merge', replaceUrl: replace });
  }
}

/** A number of the address bar, if it is one. */
export const addressNumber = (value: unknown): number | undefined => (value === undefined || value === null || Number.isNaN(Number(value)) ? undefined : Number(value));
