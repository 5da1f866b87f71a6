import type { PDFPageProxy } from 'pdfjs-dist';
import type { PageContent } from '../../core/page/page';
import { Drawing } from './drawing';
import { taggedTables } from './structure';
import { Typesetting, type Font } from './typesetting';
import { wordsOf } from './words';
import { pdfjs } from './parser';

const { OPS, Util } = pdfjs;
type Matrix = [number, number, number, number, number, number];

/**
 * Reads one page: one walk over the parser's operator list yields words, rules, fills and pictures together.
 * Everything is brought into reading coordinates by the viewport, which undoes page rotation and crop offset.
 * @param options.label the page label declared by the file
 * @param options.marked the file says that it has structure tags
 */
export async function pageContent(
  page: PDFPageProxy,
  { label, marked = false }: { label?: string; marked?: boolean } = {},
): Promise<PageContent> {
  const viewport = page.getViewport({ scale: 1 });
  const list = await page.getOperatorList({ annotationMode: pdfjs.AnnotationMode.DISABLE });
  const multiply = (m: Matrix, by: ArrayLike<number>) => Util.transform(m, by) as Matrix;
  const fontOf = (name: string): Font | undefined =>
    page.commonObjs.has(name) ? (page.commonObjs.get(name) as Font) : undefined;

  let matrix = viewport.transform as Matrix;
  const saved: { matrix: Matrix; drawing: ReturnType<Drawing['state']>; text: ReturnType<Typesetting['state']> }[] = [];
  const drawing = new Drawing(viewport.width, viewport.height);
  const text = new Typesetting(fontOf);
  const tags: (number | undefined)[] = [];

  const save = () => saved.push({ matrix, drawing: drawing.state(), text: text.state() });
  const restore = () => {
    const top = saved.pop();
    if (!top) return;
    matrix = top.matrix;
    drawing.restore(top.drawing);
    text.restore(top.text);
  };

  for (let i = 0; i < list.fnArray.length; i++) {
    const args = list.argsArray[i];
    switch (list.fnArray[i]) {
      case OPS.save:
        save();
        break;
      case OPS.restore:
        restore();
        break;
      case OPS.transform:
        matrix = multiply(matrix, args);
        break;
      case OPS.paintFormXObjectBegin:
        save();
        if (args[0]) matrix = multiply(matrix, args[0]);
        break;
      case OPS.paintFormXObjectEnd:
        restore();
        break;
      case OPS.setLineWidth:
        drawing.lineWidth = args[0];
        break;
      case OPS.setStrokeRGBColor:
        drawing.strokeColour = args[0];
        break;
      case OPS.setFillRGBColor:
        drawing.fillColour = args[0];
        break;
      case OPS.clip:
      case OPS.eoClip:
        drawing.clipByNextPath();
        break;
      case OPS.constructPath:
        drawing.path(args[0], args[1]?.[0], matrix);
        break;
      case OPS.paintImageXObject:
      case OPS.paintInlineImageXObject:
      case OPS.paintImageMaskXObject:
      case OPS.paintImageXObjectRepeat:
        drawing.picture(matrix);
        break;
      case OPS.beginMarkedContentProps:
        tags.push(typeof args[1] === 'number' ? args[1] : undefined);
        text.tag = tags.findLast((tag) => tag !== undefined);
        break;
      case OPS.beginMarkedContent:
        tags.push(undefined);
        break;
      case OPS.endMarkedContent:
        tags.pop();
        text.tag = tags.findLast((tag) => tag !== undefined);
        break;
      default:
        text.operator(list.fnArray[i], args, matrix, drawing.clip);
    }
  }
  const tagged = marked ? await taggedTables(page) : [];
  return {
    number: page.pageNumber,
    ...(label ? { label } : {}),
    width: viewport.width,
    height: viewport.height,
    words: wordsOf(text.glyphs),
    ...drawing.marks(),
    ...(tagged.length > 0 ? { tagged } : {}),
  };
}
