import type { AnyMethod } from './definition.js';

/** Whether a variant asks for a reading: each variant names the ones that it leaves out. */
export const asks = (m: Pick<AnyMethod, 'variants'>, variant: string, field: string): boolean =>
  !(m.variants[variant]?.without as readonly string[] | undefined)?.includes(field);
