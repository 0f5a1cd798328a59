import { newLoad } from '@keen-mortar/contract';
import { DateTime } from 'luxon';
import { v7 as newId } from 'uuid';
import { fault } from '../faults.js';
import { Refused } from '../problems.js';
import { itemCoded } from '../store/items.js';
import { parsed, present, quantity, type Around, type Line, type Thing } from './import-lines.js';
import { makeItem } from './items.js';
import { loadItem } from './pouring.js';

const refused = (head: string, message: string): Refused =>
  new Refused('invalid-input', message, [fault('unknown', `lines.0.${head}`, message)]);

/** A ticket as a plant sends it: a line for each material, the load’s own columns on the first. */
export function load(lines: readonly Line[], { project, by }: Around): Thing {
  const { pour = '', number = '', ticket = '', truck = '', batched = '', volume = '' } = lines[0]!.cells;
  return {
    called: `Load ${number} of ${pour}`,
    make: async (cx, act) => {
      const pourId = await itemCoded(cx, project.id, pour, 'pour');
      if (pourId === undefined) throw refused('pour', `There is no pour called “${pour}”.`);
      const at = DateTime.fromSQL(batched, { zone: project.timezone });
      if (!at.isValid) throw refused('batched', `“${batched}” is no day and time, as 2026-11-12 08:05.`);
      const materials = lines.map(({ cells: c }) => {
        const { text, unit } = quantity(c['batched mass'] ?? '');
        return {
          name: c['material'] ?? '',
          role: c['role'] ?? '',
          actual: text,
          unit,
          // The target is in the unit of what was batched.
          ...present('target', quantity(c['target mass'] ?? '').text),
          ...present('moisture', c['moisture']),
          ...present('absorption', c['absorption']),
        };
      });
      const body = {
        id: newId(),
        by,
        number: Number(number),
        ticket,
        truck,
        ...present('plant', lines[0]!.cells['plant']),
        ...present('reason', lines[0]!.cells['reason']),
        batchedAt: at.toUTC().toISO(),
        design: quantity(volume),
        materials,
      };
      await makeItem(cx, act, loadItem(project.id, pourId, parsed(newLoad, body)));
    },
    heads: [
      [/lines\.\d+\.(\w+)/, '$1'],
      [/materials\.\d+\.(actual|unit)/, 'batched mass'],
      [/materials\.\d+\.target/, 'target mass'],
      [/materials\.\d+\.(role|moisture|absorption)/, '$1'],
      [/materials/, 'material'],
      [/batchedAt/, 'batched'],
      [/design/, 'volume'],
      [/(ticket|truck|plant|number|reason)/, '$1'],
      [/./, 'number'],
    ],
  };
}
