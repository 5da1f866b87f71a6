import { inject, Injectable, signal } from '@angular/core';
import { firstValueFrom, type Observable } from 'rxjs';
import type { Evidence } from '../../../../core/evidence/evidence';
import { slipHtml, type CutOut } from '../../../../core/evidence/slip';
import { Clipboard } from '../shared/clipboard';
import { PdfPages } from '../shared/pdf-pages';
import { saved } from '../shared/saved';

/** Pixels a point in cut-outs, and points of paper shown above and below the words. */
const dense = 2;
const margin = 46;
const copper = '#98461A';

/** Makes evidence slips: one page with the evidence of a figure and cut-outs of the paper, saved as a file. */
@Injectable({ providedIn: 'root' })
export class EvidenceSlips {
  private readonly pdf = inject(PdfPages);
  private readonly clipboard = inject(Clipboard);
  readonly making = signal(false);

  /** @param file address of the PDF @param name of the slip, without ending */
  async save(asked: Observable<Evidence>, file: string, name: string): Promise<void> {
    this.making.set(true);
    try {
      const evidence = await firstValueFrom(asked);
      const cutOuts = await Promise.all(evidence.print.map((place) => this.cutOut(file, place)));
      saved(`${name}.html`, 'text/html', slipHtml(evidence, cutOuts));
    } catch (error) {
      this.clipboard.tell('error', `The evidence slip could not be made: ${(error as Error).message}`);
    } finally {
      this.making.set(false);
    }
  }

  /** The band of the page in which the words stand, each framed. */
  private async cutOut(file: string, { page, box, words }: Evidence['print'][number]): Promise<CutOut> {
    const [, height] = await this.pdf.size(file, page);
    const band = [Math.max(0, box[1] - margin), Math.min(height, box[3] + margin)] as const;
    const canvas = document.createElement('canvas');
    await this.pdf.draw(canvas, file, page, dense / (window.devicePixelRatio || 1), new AbortController().signal, band);
    const context = canvas.getContext('2d')!;
    context.strokeStyle = copper;
    context.lineWidth = dense;
    for (const { box: [left, top, right, bottom] } of words) context.strokeRect(left * dense - 3, (top - band[0]) * dense - 3, (right - left) * dense + 6, (bottom - top) * dense + 6);
    return { page, image: canvas.toDataURL('image/png') };
  }
}
