import { Component } from '@angular/core';
import { RouterLink } from '@angular/router';

@Component({
  selector: 'sieve-wordmark',
  imports: [RouterLink],
  template: `<a routerLink="/" aria-label="Able Sieve, all pipelines"><i aria-hidden="true"></i>Able Sieve</a>`,
  styles: `
    a {
      font-weight: 700;
      font-size: 17px;
      letter-spacing: 0.2px;
      color: var(--ink);
      text-decoration: none;
      white-space: nowrap;
    }
    i {
      display: inline-block;
      width: 18px;
      height: 12px;
      margin-right: 7px;
      border: 1.5px solid var(--copper);
      border-top: 0;
      border-radius: 0 0 9px 9px;
      background: repeating-linear-gradient(90deg, var(--copper) 0 1px, transparent 1px 4px);
      vertical-align: -1px;
    }
  `,
})
export class Wordmark {}
