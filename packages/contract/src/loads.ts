import { doubtsOn, type AnyInputs, type Issue, type Line, type LineItem } from '@keen-mortar/core';
import { revisionAt } from './batch.js';
import type { Load, PourDetail } from './resources.js';

const percent = (text: string | undefined) => (text === undefined ? null : { text, unit: '%' });

/** A load as an item of its line: its ticket and its water as what is known of it. */
export const loadOnLine = ({ id, pourId, number, ticket, batchedAt, design, materials, water, voided }: Load): LineItem => ({
  id,
  kind: 'load',
  parentId: pourId,
  code: `Load ${number}`,
  at: batchedAt,
  voided,
  facts: {
    ticket,
    batchedAt,
    design,
    materials: materials.map((m) => ({
      name: m.name,
      role: m.role,
      actual: { text: m.actual, unit: m.unit },
      moisture: percent(m.moisture),
      absorption: percent(m.absorption),
    })),
    water: water.map(({ id: row, mass, at }) => ({ row, mass, at })),
  } as unknown as AnyInputs,
});

/** What is unlikely of a load before it is kept, by itself and beside the others of its pour: as the server asks about it. */
export function doubtsOfLoad(pour: PourDetail, load: LineItem): Issue[] {
  const around = { project: pour.project, tests: [], decisions: [] };
  const revision = revisionAt(pour.mix.revisions, Date.parse(load.at)) ?? null;
  const own: Line = { ...around, above: [], items: [load], revision, specifications: pour.specifications };
  const top: LineItem = {
    id: pour.id,
    kind: 'pour',
    parentId: null,
    code: pour.name,
    at: load.at,
    voided: false,
    facts: { element: pour.element, planned: pour.planned } as AnyInputs,
  };
  const others = pour.loadList.map(loadOnLine).filter((l) => l.id !== load.id);
  const beside: Line = { ...around, above: [], items: [top, ...others, load], revision: null, specifications: [] };
  return [...doubtsOn(own, load), ...doubtsOn(beside, load)];
}
