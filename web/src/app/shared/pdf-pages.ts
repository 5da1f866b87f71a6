import { Injectable } from '@angular/core';
import * as pdfjs from 'pdfjs-dist';
import type { PDFDocumentLoadingTask, PDFDocumentProxy, RenderTask } from 'pdfjs-dist';

const assets = new URL(`pdfjs/${pdfjs.version}/`, document.baseURI).href;
pdfjs.GlobalWorkerOptions.workerSrc = `${assets}pdf.worker.min.mjs`;

/** Files that stay open at a time. */
const mostOpen = 3;

/** PDF files as they are drawn in the browser: each is opened once, whoever shows it. */
@Injectable({ providedIn: 'root' })
export class PdfPages {
  private readonly open = new Map<string, PDFDocumentLoadingTask>();

  private document(file: string): Promise<PDFDocumentProxy> {
    let task = this.open.get(file);
    this.open.delete(file);
    task ??= pdfjs.getDocument({ url: file, cMapUrl: `${assets}cmaps/`, cMapPacked: true, standardFontDataUrl: `${assets}standard_fonts/`, wasmUrl: `${assets}wasm/`, iccUrl: `${assets}iccs/` });
    this.open.set(file, task);
    for (const [other, old] of this.open) {
      if (this.open.size <= mostOpen) break;
      this.open.delete(other);
      void old.destroy();
    }
    // One that could not be opened is tried anew when it is asked for again.
    task.promise.catch(() => this.open.get(file) === task && this.open.delete(file));
    return task.promise;
  }

  /** Width and height of a page, in points. */
  async size(file: string, number: number): Promise<readonly [width: number, height: number]> {
    const pdf = await this.document(file);
    const { width, height } = (await pdf.getPage(Math.min(Math.max(1, number), pdf.numPages))).getViewport({ scale: 1 });
    return [width, height];
  }

  /**
   * Draws a page, or a band of it, on a canvas, which gets the size that it needs.
   * @param scale pixels of the screen a point
   * @param band from which height of the page to which, in points; all if left out
   * @returns false when it was cancelled
   */
  async draw(canvas: HTMLCanvasElement, file: string, number: number, scale: number, signal: AbortSignal, band?: readonly [from: number, to: number]): Promise<boolean> {
    const pdf = await this.document(file);
    const page = await pdf.getPage(Math.min(Math.max(1, number), pdf.numPages));
    if (signal.aborted) return false;
    const dense = scale * (window.devicePixelRatio || 1);
    const whole = page.getViewport({ scale: dense });
    const viewport = band ? page.getViewport({ scale: dense, offsetY: -band[0] * dense }) : whole;
    canvas.width = Math.floor(whole.width);
    canvas.height = Math.max(1, Math.floor(band ? (band[1] - band[0]) * dense : whole.height));
    // A canvas without transparency is black until it is drawn on.
    const context = canvas.getContext('2d', { alpha: false })!;
    context.fillStyle = '#fff';
    context.fillRect(0, 0, canvas.width, canvas.height);
    const rendering: RenderTask = page.render({ canvas, viewport });
    signal.addEventListener('abort', () => rendering.cancel(), { once: true });
    try {
      await rendering.promise;
      return true;
    } catch (error) {
      if ((error as Error).name === 'RenderingCancelledException') return false;
      throw error;
    }
  }
}
