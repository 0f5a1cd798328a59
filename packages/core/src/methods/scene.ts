/** Things that are weighed, as they are drawn. */
export type Thing =
  | 'flask-water'
  | 'flask-sand'
  | 'pushed-out'
  | 'sand-wet'
  | 'sand-dry'
  | 'stone-wet'
  | 'stone-dry'
  | 'stone-in-water'
  | 'measure-empty'
  | 'measure-full'
  | 'measure-stone'
  | 'volume';

/** One thing of a weighing, with the reading or the result that stands under it and what comes between it and the one before. */
export interface OnScale {
  readonly thing: Thing;
  readonly shows: string;
  readonly sign?: '+' | '−' | '=' | '÷' | '→';
}

/**
 * What the readings are of, to be drawn with them on it: the weighings in the order in which the method puts them together,
 * or a specimen to its own scale, by the ids of its readings (a table’s first row stands for it).
 */
export type Scene =
  | { readonly scale: readonly OnScale[] }
  | {
      readonly specimen: 'cylinder' | 'lying' | 'cube' | 'beam';
      readonly width: string;
      readonly across?: string;
      readonly height: string;
    };

/** Ids that a scene names: each a reading or a result of its method. */
export const shownOn = (scene: Scene): readonly string[] =>
  'scale' in scene ? scene.scale.map((on) => on.shows) : [scene.width, scene.height, ...(scene.across ? [scene.across] : [])];
