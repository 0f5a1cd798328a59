import type { Field, Shape } from '../methods/definition.js';
import { clockIn } from '../time/zone.js';
import { unitLabel, type UnitId } from '../units/units.js';
import { itemShape } from './item-forms.js';
import type { ItemKind } from './items.js';

/** What was added or amended of an item. */
export interface Changed {
  readonly field: string;
  readonly text: string | null;
  readonly unit: UnitId | null;
}

function figure(field: Field | undefined, { text, unit }: Changed, zone: string): string {
  if (text === null) return 'struck out';
  if (field?.kind === 'instant') return clockIn(zone, Date.parse(text));
  if (field?.kind === 'pick') return field.options[text] ?? text;
  return `${text} ${unit === null ? '' : unitLabel(unit)}`.trim();
}

const small = (label: string): string => label.charAt(0).toLowerCase() + label.slice(1);

/** What was added or amended of an item in words, rows as one: `Water added on site: how much 40 L, added at 09:44`. */
export function factWords(kind: ItemKind, changed: readonly Changed[], zone: string): string[] {
  const shape = itemShape(kind);
  const rows = new Map<string, Changed[]>();
  for (const c of changed) {
    const [top, row] = c.field.split('.');
    const key = row === undefined ? top! : `${top!}.${row}`;
    rows.set(key, [...(rows.get(key) ?? []), c]);
  }
  return [...rows].map(([key, cells]) => {
    const field = shape[key.split('.')[0]!];
    const label = field?.label ?? key;
    if (field?.kind !== 'rows') return `${label}: ${figure(field, cells[0]!, zone)}`;
    const columns = field.of as Shape;
    const order = Object.keys(columns);
    const at = (c: Changed): string => c.field.split('.')[2] ?? '';
    const words = [...cells]
      .sort((a, b) => order.indexOf(at(a)) - order.indexOf(at(b)))
      .map((c) =>
        at(c) === '' ? figure(undefined, c, zone) : `${small(columns[at(c)]?.label ?? at(c))} ${figure(columns[at(c)], c, zone)}`,
      );
    return `${label}: ${words.join(', ')}`;
  });
}
