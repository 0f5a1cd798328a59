import type { BrokenSpecimen, Item } from '@keen-mortar/contract';
import {
  convert,
  daysOf,
  exact,
  foundBy,
  methodById,
  strengthTestOf,
  type Broken,
  type OfSet,
  type System,
  type UnitId,
} from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import { childrenOf, itemOf, lineOf } from '../store/items.js';
import { kitIdsOf } from '../store/test-kit.js';
import { projectOf } from '../store/projects.js';
import { setStrengths, type StrengthRow } from '../store/strengths.js';
import { testsOfItems, type TestRecord } from '../store/tests.js';

interface SetFacts {
  readonly shape?: string;
  readonly width?: { readonly text: string; readonly unit: UnitId };
  readonly curing?: string;
}
interface SpecimenFacts {
  readonly age?: unknown;
  readonly left?: string;
}

/** Without an age it was a spare: the age at which it was broken, in whole days. */
const DAY = 86_400_000;

/** The strength tests of the set that a specimen is of, or of the set itself, are made again from what stands now. */
export async function strengthAgain(cx: PoolConnection, item: Pick<Item, 'id' | 'kind' | 'parentId'>): Promise<void> {
  const setId = item.kind === 'specimen-set' ? item.id : item.kind === 'specimen' ? item.parentId : null;
  if (setId === null) return;
  const set = await itemOf(cx, setId);
  const specimens = (await childrenOf(cx, [setId])).filter((s) => !s.voided);
  const tests = await testsOfItems(
    cx,
    specimens.map((s) => s.id),
  );
  const broke = tests.filter((t) => t.newest !== null && methodById(t.method)?.breaks);
  if (broke.length === 0) return setStrengths(cx, setId, []);
  const kit = await kitIdsOf(
    cx,
    broke.map((t) => t.id),
  );
  const { system } = await projectOf(cx, set.projectId);
  const ofSet = ofSetFrom(
    set,
    (await lineOf(cx, setId)).some((i) => i.kind === 'trial-batch'),
    system,
  );
  const groups = new Map<string, { ageDays: number; property: string; all: (BrokenSpecimen & { counts: Broken })[] }>();
  for (const test of broke) {
    const specimen = specimens.find((s) => s.id === test.itemId)!;
    const found = brokenOf(specimen, test, kit.get(test.id) ?? []);
    if (!found) continue;
    const own = daysOf((specimen.facts as SpecimenFacts).age);
    const ageDays = own ?? Math.round((test.startedAt.getTime() - Date.parse(set.at)) / DAY);
    const key = `${found.counts.property} ${ageDays}`;
    const group = groups.get(key) ?? { ageDays, property: found.counts.property, all: [] };
    // Broken twice it cannot be: the later one stands.
    group.all = [...group.all.filter((b) => b.id !== specimen.id), found];
    groups.set(key, group);
  }
  const otherwise = (id: string, property: string): boolean =>
    [...groups.values()].some((g) => g.property !== property && g.all.some((b) => b.id === id));
  const rows = [...groups.values()].map(({ ageDays, property, all }): StrengthRow => {
    const test = strengthTestOf(
      ofSet,
      all.map((b) => b.counts),
    );
    return {
      setId,
      property,
      ageDays,
      subjectId: set.subjectId,
      castAt: set.at,
      brokenAt: all
        .map((b) => b.at)
        .sort()
        .at(-1)!,
      unit: test.unit,
      mean: test.mean,
      reported: test.reported,
      count: test.count,
      // Of those of its age that were not broken otherwise.
      planned: specimens.filter((s) => daysOf((s.facts as SpecimenFacts).age) === ageDays && !otherwise(s.id, property)).length,
      range: test.range,
      most: test.most,
      apart: test.apart,
      notFor: test.not,
      specimens: all.map(({ counts: _counts, ...view }) => view),
    };
  });
  await setStrengths(cx, setId, rows);
}

function ofSetFrom({ facts }: Item, laboratory: boolean, system: System): OfSet {
  const { shape, width, curing } = facts as SetFacts;
  return { shape, width: width ? convert(exact(width.text), width.unit, 'mm').valueOf() : null, cured: curing, laboratory, system };
}

/** What a test that broke a specimen gave, from what was said when it was worked out last. */
function brokenOf(specimen: Item, test: TestRecord, kit: readonly string[]): (BrokenSpecimen & { counts: Broken }) | null {
  const m = methodById(test.method)!;
  const { results, validity } = test.newest!.frozen.said;
  const main = results.find((r) => m.results[r.id]?.main && m.results[r.id]?.property !== undefined);
  const given = main?.state === 'given' ? main : undefined;
  const property = foundBy(m);
  if (property === undefined) return null;
  const left = (specimen.facts as SpecimenFacts).left ?? null;
  const remarks = validity.state === 'valid' ? [] : validity.reasons.map(({ code }) => code);
  const { inputs } = test.newest!.frozen;
  const unit: UnitId = given?.unit ?? 'MPa';
  return {
    id: specimen.id,
    code: specimen.code,
    testId: test.id,
    method: test.method,
    reported: given?.reported ?? null,
    unit,
    at: test.startedAt.toISOString(),
    by: test.by,
    validity: validity.state,
    remarks,
    left,
    fracture: (inputs as { fracture?: string | null }).fracture ?? null,
    density: results.find((r) => r.id === 'density')?.reported ?? null,
    kit,
    counts: {
      property,
      // As other tests take it: each strength is reported, and their mean is of these.
      value: { text: given?.reported ?? '0', unit },
      void: (given?.reported ?? null) === null,
      remarks: remarks,
      left,
    },
  };
}
