import { inject, Injectable, signal } from '@angular/core';
import { strToU8, zipSync } from 'fflate';
import { firstValueFrom, type Observable } from 'rxjs';
import type { Evidence } from '../../../../core/evidence/evidence';
import { bundleFiles, type BundledSlip } from '../../../../core/evidence/bundle';
import { slipHtml, type CutOut } from '../../../../core/evidence/slip';
import { Clipboard } from '../shared/clipboard';
import { PdfPages } from '../shared/pdf-pages';
import { saved } from '../shared/saved';

/** Pixels a point in cut-outs, and points of paper shown above and below the words. */
const dense = 2;
const margin = 46;
const copper = '#98461A';

/** Slips that go into one bundle. */
export const mostSlips = 100;

/** A slip to be made. */
export interface SlipAsked {
  readonly asked: Observable<Evidence>;
  /** Address of the PDF. */
  readonly file: string;
  /** Without ending. */
  readonly name: string;
}

/** Makes evidence slips: one page with the evidence of a figure and cut-outs of the paper, saved as a file; several go into one bundle. */
@Injectable({ providedIn: 'root' })
export class EvidenceSlips {
  private readonly pdf = inject(PdfPages);
  private readonly clipboard = inject(Clipboard);
  /** How far they are, in words; undefined: none are being made. */
  readonly making = signal<string | undefined>(undefined);

  /** @param name of the file, without ending @param which tells the slips wanted */
  async save(name: string, which: () => Promise<readonly SlipAsked[]> | readonly SlipAsked[]): Promise<void> {
    this.making.set('Making the slip');
    try {
      const wanted = await which();
      const slips: BundledSlip[] = [];
      for (const { asked, file, name: own } of wanted) {
        if (wanted.length > 1) this.making.set(`Making slip ${slips.length + 1} of ${wanted.length}`);
        const evidence = await firstValueFrom(asked);
        const html = slipHtml(evidence, await Promise.all(evidence.print.map((place) => this.cutOut(file, place))));
        slips.push({ name: own, evidence, html });
      }
      if (slips.length === 1) saved(`${name}.html`, 'text/html', slips[0].html);
      else saved(`${name}.zip`, 'application/zip', new Blob([zipSync(Object.fromEntries(bundleFiles(name, slips).map((file) => [file.name, strToU8(file.html)]))) as Uint8Array<ArrayBuffer>]));
    } catch (error) {
      this.clipboard.tell('error', `The evidence could not be saved: ${(error as Error).message}`);
    } finally {
      this.making.set(undefined);
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
