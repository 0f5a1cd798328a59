import { ITEM_KINDS, NOTES, NOTES_FIELD, type ItemKind, type Shape } from '@keen-mortar/core';

/** What every item may have beside its kind’s own facts: kept and amended like them. */
export const NAME = 'name';
export const ON = 'on';
/** Path of the entry that takes an item back. */
export const VOID = 'void';

const BASE: Shape = { [NAME]: { kind: 'text', label: 'Name' }, [ON]: { kind: 'text', label: 'Day' }, [NOTES]: NOTES_FIELD };

/** All that is kept of an item of a kind. A material’s own name lies in its row: the two do not meet. */
export const itemShape = (kind: ItemKind): Shape => ({ ...BASE, ...ITEM_KINDS[kind].facts });
