import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { VerdictState } from '@keen-mortar/core';
import PdfDocument from 'pdfkit';
import QrCode from 'qrcode';

const require = createRequire(import.meta.url);
const file = (family: string, weight: number): string =>
  join(dirname(require.resolve(`@fontsource/${family}/package.json`)), 'files', `${family}-latin-${weight}-normal.woff`);

export const FONTS = {
  text: file('atkinson-hyperlegible-next', 400),
  bold: file('atkinson-hyperlegible-next', 700),
  figures: file('atkinson-hyperlegible-mono', 700),
} as const;
type Font = keyof typeof FONTS;

/** Inks of the paper: those of the screen in the sun. */
export const INK = {
  ink: '#111111',
  soft: '#4d4d4d',
  hair: '#c9c9c9',
  zone: '#d7e6de',
  within: '#0f5040',
  edge: '#5c4000',
  out: '#7d0f36',
  deep: '#1f4450',
};

/** What the families have no sign for, said otherwise. */
const INSTEAD: Readonly<Record<string, string>> = {
  '≥': 'at least ',
  '≤': 'at most ',
  '≈': 'about ',
  '→': 'to',
  '′': "'",
  '″': '"',
  Δ: 'change of ',
  Σ: 'sum of ',
  ρ: 'density ',
  σ: 's',
  π: 'pi',
  µ: 'micro',
  μ: 'micro',
  Ω: 'ohm',
  ā: 'mean a',
  ṡ: 'rate s',
  '⁻': '-',
};
const signs = new RegExp(`[${Object.keys(INSTEAD).join('')}]`, 'gu');
/** A name as people write it may have signs that the families have none for: they are told, not dropped. */
const UNKNOWN = /[^\u0020-\u00ff\u0131\u0152\u0153\u02bb\u02bc\u02c6\u02da\u02dc\u2000-\u206f\u20ac\u2122\u2191\u2193\u2212\u2215]/gu;
export const printable = (text: string): string =>
  text
    .normalize('NFC')
    .replace(/[µμ]m\b/g, 'micrometres')
    .replace(signs, (c) => INSTEAD[c]!)
    .replace(UNKNOWN, '?');

/** Signs of formulas that the families have none for: told before the letter that they stand over. */
export const printableFormula = (text: string): string =>
  printable(
    text
      .normalize('NFD')
      .replace(/(\p{L})\u0304/gu, 'mean $1')
      .replace(/(\p{L})\u0302/gu, 'estimated $1')
      .normalize('NFC')
      .replaceAll('√', 'root of ')
      .replaceAll('ⁿ', '^n'),
  );

const MARGIN = 42;
export const WIDTH = 595.28 - 2 * MARGIN;
const BOTTOM = 841.89 - 58;

interface Style {
  readonly font?: Font;
  readonly size?: number;
  readonly colour?: string;
  readonly width?: number;
  readonly x?: number;
  readonly align?: 'left' | 'right';
}

/** A paper that is written from top to bottom; what does not fit begins the next page. */
export class Paper {
  private readonly doc: PDFKit.PDFDocument;
  private readonly chunks: Buffer[] = [];
  private readonly done: Promise<void>;
  y = MARGIN;

  constructor(title: string, madeAt: Date) {
    this.doc = new PdfDocument({
      size: 'A4',
      margin: 0,
      bufferPages: true,
      info: { Title: printable(title), Creator: 'Keen Mortar', Producer: 'Keen Mortar', CreationDate: madeAt },
    });
    for (const [name, path] of Object.entries(FONTS)) this.doc.registerFont(name, path);
    this.doc.on('data', (chunk: Buffer) => this.chunks.push(chunk));
    this.done = new Promise((resolve) => this.doc.on('end', resolve));
  }

  private use({ font = 'text', size = 9.5, colour = INK.ink }: Style): PDFKit.PDFDocument {
    return this.doc.font(font).fontSize(size).fillColor(colour);
  }

  height(text: string, style: Style = {}): number {
    return this.use(style).heightOfString(printable(text), { width: style.width ?? WIDTH });
  }

  /** Room for so much; else on the next page. */
  room(height: number): void {
    if (this.y + height <= BOTTOM) return;
    this.doc.addPage();
    this.y = MARGIN;
  }

  /** A text at a place of its own; the paper does not move on. */
  at(text: string, x: number, y: number, style: Style = {}): void {
    this.use(style).text(printable(text), MARGIN + x, y, {
      width: style.width ?? WIDTH - x,
      align: style.align ?? 'left',
      lineBreak: true,
    });
  }

  /** A text in the course of the paper. */
  say(text: string, style: Style = {}, after = 2): void {
    const x = style.x ?? 0;
    const width = style.width ?? WIDTH - x;
    const height = this.height(text, { ...style, width });
    this.room(height);
    this.at(text, x, this.y, { ...style, width });
    this.y += height + after;
  }

  rule(colour = INK.hair, weight = 0.7): void {
    this.line(0, this.y, WIDTH, this.y, colour, weight);
    this.y += 4;
  }

  line(x1: number, y1: number, x2: number, y2: number, colour: string = INK.ink, weight = 0.7): void {
    this.doc
      .moveTo(MARGIN + x1, y1)
      .lineTo(MARGIN + x2, y2)
      .lineWidth(weight)
      .strokeColor(colour)
      .stroke();
  }

  box(x: number, y: number, width: number, height: number, fill: string | null, stroke: string | null = null): void {
    const shape = this.doc.rect(MARGIN + x, y, width, height).lineWidth(0.7);
    if (fill !== null && stroke !== null) shape.fillAndStroke(fill, stroke);
    else if (fill !== null) shape.fill(fill);
    else shape.stroke(stroke ?? INK.ink);
  }

  /** A shape for each verdict, as on the screen: never a colour alone. */
  shape(state: VerdictState | null, x: number, y: number, low = false): void {
    const [cx, cy, r] = [MARGIN + x + 4, y + 4, 3.6];
    const d = this.doc.lineWidth(1);
    // The wedge points to the side on which it is out.
    const up = low ? -1 : 1;
    if (state === 'within') d.circle(cx, cy, r).fill(INK.within);
    else if (state === 'edge') d.circle(cx, cy, r).strokeColor(INK.edge).stroke();
    else if (state === 'out') d.polygon([cx - 4, cy + up * 3.4], [cx + 4, cy + up * 3.4], [cx, cy - up * 4]).fill(INK.out);
    else if (state === 'void') {
      d.circle(cx, cy, r).strokeColor(INK.soft).stroke();
      d.moveTo(cx - 4, cy + 4)
        .lineTo(cx + 4, cy - 4)
        .strokeColor(INK.soft)
        .stroke();
    } else
      d.moveTo(cx - 3, cy)
        .lineTo(cx + 3, cy)
        .strokeColor(INK.soft)
        .stroke();
  }

  dot(x: number, y: number, colour: string, radius = 2.2): void {
    this.doc.circle(MARGIN + x, y, radius).fill(colour);
  }

  /** A code that a camera reads; as large as this. */
  code(text: string, x: number, y: number, size: number): void {
    const { modules } = QrCode.create(text, { errorCorrectionLevel: 'M' });
    const one = size / modules.size;
    for (let row = 0; row < modules.size; row++)
      for (let column = 0; column < modules.size; column++)
        if (modules.get(row, column)) this.doc.rect(MARGIN + x + column * one, y + row * one, one + 0.05, one + 0.05).fill('#000000');
  }

  /** Says at the foot of each page what it is of, and which of how many; then it is done. */
  async finish(foot: string): Promise<Buffer> {
    const { count } = this.doc.bufferedPageRange();
    for (let page = 0; page < count; page++) {
      this.doc.switchToPage(page);
      this.line(0, BOTTOM + 12, WIDTH, BOTTOM + 12, INK.hair);
      this.at(foot, 0, BOTTOM + 18, { size: 8, colour: INK.soft, width: WIDTH - 90 });
      this.at(`Page ${page + 1} of ${count}`, WIDTH - 90, BOTTOM + 18, { size: 8, colour: INK.soft, width: 90, align: 'right' });
    }
    this.doc.end();
    await this.done;
    return Buffer.concat(this.chunks);
  }
}
