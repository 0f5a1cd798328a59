import pLimit from 'p-limit';
import sharp from 'sharp';
import { Refused } from './problems.js';

/** Longest side of a picture that is kept, and of the small one beside it. */
const LONGEST = 3200;
const SMALL = 400;
/** More is no photo of a sample. */
const MOST_PIXELS = 80_000_000;

// Only what cameras give and screens show is read at all.
sharp.block({ operation: ['VipsForeignLoad'] });
sharp.unblock({
  operation: ['VipsForeignLoadJpegBuffer', 'VipsForeignLoadPngBuffer', 'VipsForeignLoadWebpBuffer'],
});
sharp.concurrency(1);

/** A picture in the making is large: so many at once, so many waiting. */
const drawing = pLimit(2);
const MOST_WAITING = 30;

export interface Picture {
  readonly type: 'image/jpeg' | 'image/png';
  readonly bytes: Buffer;
  readonly width: number;
  readonly height: number;
  readonly preview: Buffer;
}

/**
 * A picture drawn anew from what it shows: upright, no larger than is of use, and without what the camera wrote into it: the place
 * where it was taken, the device, its owner. Throws a refusal for what is none.
 */
export function pictureOf(bytes: Buffer): Promise<Picture> {
  if (drawing.pendingCount >= MOST_WAITING) throw new Refused('busy', 'Many pictures are on their way: try again in a moment.');
  return drawing(() => drawn(bytes));
}

async function drawn(bytes: Buffer): Promise<Picture> {
  try {
    const read = () => sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: 'error' }).rotate();
    const { format } = await sharp(bytes, { limitInputPixels: MOST_PIXELS }).metadata();
    const sized = read().resize({ width: LONGEST, height: LONGEST, fit: 'inside', withoutEnlargement: true });
    const made = format === 'png' ? sized.png() : sized.jpeg({ quality: 86, mozjpeg: true });
    const { data, info } = await made.toBuffer({ resolveWithObject: true });
    const preview = await sharp(data)
      .resize({ width: SMALL, height: SMALL, fit: 'inside', withoutEnlargement: true })
      .jpeg({ quality: 78 })
      .toBuffer();
    return { type: format === 'png' ? 'image/png' : 'image/jpeg', bytes: data, width: info.width, height: info.height, preview };
  } catch (error) {
    if (/pixel limit/i.test((error as Error).message))
      throw new Refused('too-large', `A picture has at most ${MOST_PIXELS / 1e6} million points.`);
    throw new Refused('not-a-picture', 'This is no picture that can be read here, or it is damaged: send a JPEG, a PNG or a WebP.');
  }
}
