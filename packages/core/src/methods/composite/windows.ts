import type { Citation, MethodWindow } from '../definition.js';

export const C172: Citation = { designation: 'ASTM C172/C172M', edition: '2017' };

/** Slump and air start within 5 min of the final portion (C172; C143, C138 and C231 refer to it). */
export const startWithin5 = (source: Citation, label: string): MethodWindow => ({
  id: 'start-within-5',
  starts: 'sample.final-portion',
  must: 'test.started',
  mostSeconds: 300,
  missed: 'marked',
  label,
  done: 'Tests started',
  then: 'after that the result carries a remark: repeat it on a new sample where it matters',
  source,
});
