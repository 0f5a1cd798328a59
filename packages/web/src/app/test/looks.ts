import { FRACTURES } from '@keen-mortar/core';
import { SLUMP_SHAPES } from './slump-shape';

export type Look = 'slump' | 'fracture';

/** Which drawings there are of some choices; null where words have to do. */
export function lookOf(options: readonly string[]): Look | null {
  if (options.every((id) => SLUMP_SHAPES.has(id))) return 'slump';
  return options.every((id) => Object.hasOwn(FRACTURES, id)) ? 'fracture' : null;
}
