import type { Item } from '@keen-mortar/contract';
import { ITEM_KINDS, type ItemKind } from '@keen-mortar/core';

const PICTURES = {
  structure: 'bridge',
  element: 'bridge',
  area: 'hammer',
  pour: 'truck',
  load: 'truck',
  sample: 'sample',
  'specimen-set': 'set',
  specimen: 'cyl',
  source: 'heap',
  'field-sample': 'sample',
  portion: 'scale',
  'prism-set': 'prism',
  prism: 'prism',
  'trial-batch': 'mix',
  storage: 'thermo',
} as const satisfies Readonly<Record<ItemKind, string>>;

export const pictureOfKind = (kind: ItemKind): (typeof PICTURES)[ItemKind] => PICTURES[kind];

/** As people call it: its code, and its name where that is another. */
export const calledOf = (item: Pick<Item, 'code' | 'name'>): string =>
  item.name !== null && item.name !== item.code ? `${item.code} ${item.name}` : item.code;

/** Where its sheet is: a pour and a sample of fresh concrete have places of their own. */
export function linkOf(item: Pick<Item, 'id' | 'kind'>, line: readonly Pick<Item, 'kind'>[] = []): string[] {
  if (item.kind === 'pour') return ['/pours', item.id];
  if (item.kind === 'sample' && !line.some((i) => i.kind === 'trial-batch')) return ['/samples', item.id];
  return ['/record', item.id];
}

/** `a set of specimens`: in the middle of a sentence. */
export const lower = (kind: ItemKind): string => ITEM_KINDS[kind].label.toLowerCase();
