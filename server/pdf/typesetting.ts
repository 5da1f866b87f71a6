import type { Box } from '../../core/page/box';
import { pdfjs } from './parser';

const { OPS, Util } = pdfjs;
type Matrix = [number, number, number, number, number, number];

/** What is used of a font as the parser hands it over. */
export interface Font {
  readonly name?: string;
  readonly bold?: boolean;
  readonly black?: boolean;
  readonly italic?: boolean;
  readonly ascent?: number;
  readonly descent?: number;
  readonly vertical?: boolean;
  readonly fontMatrix?: readonly number[];
}

interface ShownGlyph {
  readonly unicode: string;
  readonly width: number;
  readonly isSpace: boolean;
}

/** One glyph as printed: its origin on the baseline, the way it advances, all in reading coordinates. */
export interface PlacedGlyph {
  readonly text: string;
  readonly x: number;
  readonly y: number;
  /** Length of the advance without letter-spacing, in points. */
  readonly advance: number;
  /** Clockwise, degrees, 0 to 359. */
  readonly angle: number;
  readonly fontSize: number;
  readonly ascent: number;
  readonly descent: number;
  readonly bold: boolean;
  readonly italic: boolean;
  readonly space: boolean;
  readonly tag?: number;
}

const within = (value: number | undefined, least: number, most: number, otherwise: number) =>
  value !== undefined && value >= least && value <= most ? value : otherwise;

/** Follows the text operators of a page (ISO 32000, 9.3 and 9.4) and places every glyph. */
export class Typesetting {
  readonly glyphs: PlacedGlyph[] = [];
  tag: number | undefined;
  private font: Font | undefined;
  private size = 1;
  private charSpacing = 0;
  private wordSpacing = 0;
  private scale = 1;
  private leading = 0;
  private rise = 0;
  private line: Matrix = [1, 0, 0, 1, 0, 0];
  private x = 0;
  private y = 0;
  private lineX = 0;
  private lineY = 0;
  private clip: Box = [0, 0, 0, 0];

  constructor(private readonly fontOf: (name: string) => Font | undefined) {}

  state() {
    const { font, size, charSpacing, wordSpacing, scale, leading, rise } = this;
    return { font, size, charSpacing, wordSpacing, scale, leading, rise };
  }

  restore(state: ReturnType<Typesetting['state']>) {
    Object.assign(this, state);
  }

  /** @param clip glyphs outside of it are not seen, so they are not placed */
  operator(op: number, args: any, matrix: Matrix, clip: Box): void {
    this.clip = clip;
    switch (op) {
      case OPS.beginText:
        this.setMatrix([1, 0, 0, 1, 0, 0]);
        break;
      case OPS.setTextMatrix:
        // Some parser versions wrap the six numbers, some hand them over flat.
        this.setMatrix((args.length === 6 ? [...args] : [...args[0]]) as Matrix);
        break;
      case OPS.setFont:
        this.font = this.fontOf(args[0]);
        this.size = args[1];
        break;
      case OPS.setCharSpacing:
        this.charSpacing = args[0];
        break;
      case OPS.setWordSpacing:
        this.wordSpacing = args[0];
        break;
      case OPS.setHScale:
        this.scale = args[0] / 100;
        break;
      case OPS.setLeading:
        this.leading = -args[0];
        break;
      case OPS.setTextRise:
        this.rise = args[0];
        break;
      case OPS.moveText:
        this.move(args[0], args[1]);
        break;
      case OPS.setLeadingMoveText:
        this.leading = args[1];
        this.move(args[0], args[1]);
        break;
      case OPS.nextLine:
        this.move(0, this.leading);
        break;
      case OPS.showText:
        this.show(args[0], matrix);
        break;
      case OPS.nextLineShowText:
        this.move(0, this.leading);
        this.show(args[0], matrix);
        break;
      case OPS.nextLineSetSpacingShowText:
        this.wordSpacing = args[0];
        this.charSpacing = args[1];
        this.move(0, this.leading);
        this.show(args[2], matrix);
        break;
    }
  }

  private setMatrix(matrix: Matrix) {
    this.line = matrix;
    this.x = this.y = this.lineX = this.lineY = 0;
  }

  private move(dx: number, dy: number) {
    this.x = this.lineX += dx;
    this.y = this.lineY += dy;
  }

  private show(shown: (ShownGlyph | number | null)[], matrix: Matrix) {
    const font = this.font;
    const full = Util.transform(matrix, this.line) as Matrix;
    const unit = this.size * (font?.fontMatrix?.[0] ?? 0.001);
    // The direction of the baseline and the height of the line, both after every transform.
    const along = Math.hypot(full[0], full[1]);
    const upright = Math.hypot(full[2], full[3]);
    const fontSize = Math.abs(this.size) * upright;
    const backwards = this.size < 0 ? 180 : 0;
    const angle = (Math.round((Math.atan2(full[1], full[0]) * 180) / Math.PI) + backwards + 720) % 360;
    const ascent = within(font?.ascent, 0.5, 1.1, 0.8) * fontSize;
    const descent = -within(font?.descent, -0.45, -0.05, -0.2) * fontSize;
    const bold =
      font?.bold === true || font?.black === true || /bold|black|heavy|semibold|demi/i.test(font?.name ?? '');
    const italic = font?.italic === true || /italic|oblique/i.test(font?.name ?? '');
    for (const glyph of shown) {
      if (glyph === null || glyph === undefined) continue;
      if (typeof glyph === 'number') {
        if (font?.vertical) this.y += (glyph * this.size) / 1000;
        else this.x -= (glyph * this.size * this.scale) / 1000;
        continue;
      }
      const px = this.x;
      const py = this.y + this.rise;
      const advance = glyph.width * unit * this.scale;
      const x = full[0] * px + full[2] * py + full[4];
      const y = full[1] * px + full[3] * py + full[5];
      const spacing = (this.charSpacing + (glyph.isSpace ? this.wordSpacing : 0)) * this.scale;
      if (font?.vertical) this.y -= Math.abs(this.size) + spacing;
      else this.x += advance + spacing;
      if (!this.shows(x + (full[0] * advance) / 2, y + (full[1] * advance) / 2, fontSize)) continue;
      this.glyphs.push({
        text: glyph.unicode,
        x,
        y,
        advance: Math.abs(advance) * along,
        angle,
        fontSize,
        ascent,
        descent,
        bold,
        italic,
        // `isSpace` tells of character code 32, which a subset font may give to any glyph.
        space: /^\s*$/.test(glyph.unicode),
        tag: this.tag,
      });
    }
  }

  /** Does the middle of a glyph's foot lie where it is seen, or so near that its upper part is? */
  private shows(x: number, y: number, fontSize: number): boolean {
    const [x0, y0, x1, y1] = this.clip;
    return x > x0 - 0.2 * fontSize && x < x1 + 0.2 * fontSize && y > y0 - 0.2 * fontSize && y < y1 + 0.8 * fontSize;
  }
}
