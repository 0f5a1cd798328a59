import { Refused } from '../problems.js';

/** A row with the largest picture that is taken, characters. */
const LONGEST_LINE = 24 * 1024 * 1024;

/**
 * The lines of a text that comes in pieces. Each piece is looked through once, however long a line is: common splitters look
 * through all of the line again with each.
 */
export async function* linesOf(pieces: AsyncIterable<string>): AsyncGenerator<string> {
  let parts: string[] = [];
  let length = 0;
  for await (const piece of pieces) {
    let from = 0;
    for (let end = piece.indexOf('\n'); end >= 0; end = piece.indexOf('\n', from)) {
      yield parts.join('') + piece.slice(from, end);
      [parts, length, from] = [[], 0, end + 1];
    }
    parts.push(piece.slice(from));
    length += piece.length - from;
    if (length > LONGEST_LINE) throw new Refused('too-large', 'A line of it is longer than any of a record is.');
  }
  if (length > 0) yield parts.join('');
}
