import {
  acceptancesBy,
  revisionAt,
  type Acceptance,
  type Item,
  type Mix,
  type MixSeries,
  type Project,
  type SeriesLine,
  type StillToBreak,
  type StrengthTestView,
  type WholeSeries,
} from '@keen-mortar/contract';
import { EARLY_AT_DAYS, partOf, propertyOf, remarkWords, seasonOf, shiftOf, unitLabel, type Keyed, type Trait } from '@keen-mortar/core';
import type { Cx } from '../db.js';
import { fault } from '../faults.js';
import { Refused } from '../problems.js';
import { itemsNamed } from '../store/items.js';
import { equipmentNames } from '../store/kit.js';
import { kitOfItems } from '../store/test-kit.js';
import { mixOf } from '../store/mixes.js';
import { people } from '../store/people.js';
import { projectOf } from '../store/projects.js';
import { specificationsNamed } from '../store/specifications.js';
import { acceptedBy, countStrengths, fieldCured, pairsOfMix, stillToBreak, strengthsOfMix, wholeSeries } from '../store/strengths.js';
import { findingsShown } from './findings.js';
import { trendsOf } from './sources.js';

/** So many of the newest tests are looked at one by one; the whole of a longer series is asked for by itself. */
const MOST = 240;
const PAIRS = 60;
const WAITING = 40;
const FIELD = 20;
const DAY = 86_400_000;

/** By what a mix is accepted now, at each age: as the specifications of the revision say that is in force, or is the last. */
async function acceptancesOf(cx: Cx, { revisions }: Mix, project: Project, now: Date): Promise<Acceptance[]> {
  const revision = revisionAt(revisions, now.getTime()) ?? revisions.at(-1);
  return acceptancesBy(await specificationsNamed(cx, revision?.specificationIds ?? []), project);
}

/** What is accepted at an age; at the first one where none is named. */
function acceptedAt(all: readonly Acceptance[], ageDays: number | undefined): Acceptance {
  const found = ageDays === undefined ? all[0] : all.find((a) => a.ageDays === ageDays);
  if (found) return found;
  const ages = all.map((a) => a.ageDays).join(' and ');
  const message = `Nothing is accepted at ${ageDays} days; this mix is accepted at ${ages}.`;
  throw new Refused('invalid-input', message, [fault('unknown-age', 'age', message)]);
}

/** A mix's strength tests at an age of acceptance, with all that may explain them. @param age days; undefined: the youngest */
export async function seriesOf(cx: Cx, mixId: string, now: Date, age?: number): Promise<MixSeries> {
  const mix = await mixOf(cx, mixId);
  const project = await projectOf(cx, mix.projectId);
  const all = await acceptancesOf(cx, mix, project, now);
  const accepted = acceptedAt(all, age);
  const { ageDays } = accepted;
  const property = await acceptedBy(cx, mixId, ageDays);
  const of = { property, ageDays };
  const [tests, { total, counting }, pairs, waiting, field, found] = await Promise.all([
    strengthsOfMix(cx, mixId, { ...of, before: now, most: MOST }),
    countStrengths(cx, mixId, of),
    pairsOfMix(cx, mixId, { property, early: EARLY_AT_DAYS, late: ageDays, before: now, most: PAIRS }),
    stillToBreak(cx, mixId, {
      property,
      early: EARLY_AT_DAYS,
      late: ageDays,
      since: new Date(now.getTime() - (ageDays + 2) * DAY),
      most: WAITING,
    }),
    fieldCured(cx, mixId, property, FIELD),
    findingsShown(cx, [mixId], now),
  ]);
  const traced = await traitsOf(cx, mix, project, tests, now);
  return {
    mix: { id: mix.id, code: mix.code, name: mix.name },
    project: { timezone: project.timezone, system: project.system, practice: project.practice },
    accepted,
    ages: all.map((a) => a.ageDays),
    tests: tests.flatMap((t) => lineOf(t, traced.of.get(t.setId) ?? [])),
    findings: found.filter((f) => f.part === partOf(of)),
    total,
    earlier: counting - tests.filter(counts).length,
    traits: traced.traits,
    waiting: waiting.map((w): StillToBreak => ({ ...w, dueAt: new Date(Date.parse(w.castAt) + ageDays * DAY).toISOString() })),
    pairs,
    field,
  };
}

const counts = (t: StrengthTestView): boolean => t.notFor === null && t.reported !== null;

/** All of a mix that counts, however long, as columns. */
export async function wholeOf(cx: Cx, mixId: string, now: Date, age: number | undefined, most: number): Promise<WholeSeries> {
  const mix = await mixOf(cx, mixId);
  const { ageDays } = acceptedAt(await acceptancesOf(cx, mix, await projectOf(cx, mix.projectId), now), age);
  return wholeSeries(cx, mixId, { property: await acceptedBy(cx, mixId, ageDays), ageDays }, most);
}

function lineOf(t: StrengthTestView, traits: readonly string[]): SeriesLine[] {
  if (t.reported === null) return [];
  const counted = t.specimens.filter((s) => s.left === null && s.reported !== null);
  return [
    {
      setId: t.setId,
      code: t.code,
      castAt: t.castAt,
      strength: { text: t.reported, unit: t.unit },
      companions: counted.map((s) => ({ text: s.reported!, unit: s.unit })),
      range: t.range,
      apart: t.apart,
      notFor: t.notFor,
      traits,
    },
  ];
}

interface Traced {
  readonly traits: readonly Trait[];
  readonly of: ReadonlyMap<string, readonly string[]>;
}

/** What the record says of each test: with what and by whom it was made, what stands on it, and how its sources were then. */
async function traitsOf(cx: Cx, mix: Mix, project: Project, tests: readonly StrengthTestView[], now: Date): Promise<Traced> {
  const known = new Map<string, Trait>();
  const of = new Map<string, string[]>();
  const add = (setId: string, trait: Trait): void => {
    known.set(trait.id, trait);
    const own = of.get(setId) ?? [];
    if (!own.includes(trait.id)) of.set(setId, [...own, trait.id]);
  };
  const sets = await itemsNamed(
    cx,
    tests.map((t) => t.setId),
  );
  const samples = await itemsNamed(cx, [...new Set(sets.flatMap((s) => s.parentId ?? []))]);
  const loads = await itemsNamed(cx, [...new Set(samples.flatMap((s) => s.parentId ?? []))]);
  const pours = await itemsNamed(cx, [...new Set(loads.flatMap((l) => l.parentId ?? []))]);
  const byId = new Map([...sets, ...samples, ...loads, ...pours].map((i): [string, Item] => [i.id, i]));
  const freshKit = await kitOfItems(
    cx,
    samples.map((s) => s.id),
  );
  const kitIds = [...new Set([...tests.flatMap((t) => t.specimens.flatMap((s) => s.kit)), ...[...freshKit.values()].flat()])];
  const [names, everybody, shifts] = await Promise.all([equipmentNames(cx, kitIds), people(cx), shiftsOfSources(cx, mix, now)]);
  const nameOf = new Map(everybody.map((p) => [p.id, p.name]));
  for (const test of tests) {
    const set = byId.get(test.setId);
    const sample = set?.parentId ? byId.get(set.parentId) : undefined;
    const load = sample?.parentId ? byId.get(sample.parentId) : undefined;
    const at = Date.parse(test.castAt);
    for (const id of [...test.specimens.flatMap((s) => s.kit), ...(sample ? (freshKit.get(sample.id) ?? []) : [])]) {
      const kit = names.get(id);
      if (kit) add(test.setId, { id: `kit:${id}`, kind: 'kit', label: kit.name });
    }
    for (const by of new Set(test.specimens.map((s) => s.by)))
      add(test.setId, { id: `broke:${by}`, kind: 'person', label: `Broken by ${nameOf.get(by) ?? 'somebody'}` });
    if (set) add(test.setId, { id: `molded:${set.by}`, kind: 'person', label: `Molded by ${nameOf.get(set.by) ?? 'somebody'}` });
    for (const code of new Set(test.specimens.flatMap((s) => s.remarks)))
      add(test.setId, { id: `remark:${code}`, kind: 'remark', label: remarkWords(code) });
    const { truck, plant } = (load?.facts ?? {}) as { truck?: string; plant?: string };
    if (plant !== undefined) add(test.setId, { id: `plant:${plant}`, kind: 'plant', label: `Plant ${plant}` });
    if (truck !== undefined) add(test.setId, { id: `truck:${truck}`, kind: 'truck', label: truck });
    const { air } = ((load?.parentId ? byId.get(load.parentId) : undefined)?.facts ?? {}) as { air?: Keyed };
    if (air) add(test.setId, seasonOf(air, project.system));
    const revision = revisionAt(mix.revisions, at);
    if (revision) add(test.setId, { id: `revision:${revision.number}`, kind: 'revision', label: `Revision ${revision.number} of the mix` });
    for (const shift of shifts) if (at > shift.after) add(test.setId, shift.trait);
  }
  return { traits: [...known.values()], of };
}

/** Where something of a source moved for good: concrete that was batched after the last result of before has it. */
async function shiftsOfSources(cx: Cx, mix: Mix, now: Date): Promise<{ readonly trait: Trait; readonly after: number }[]> {
  const named = new Map(mix.revisions.flatMap((r) => r.ingredients.flatMap((i) => (i.sourceId ? [[i.sourceId, i.name] as const] : []))));
  const all = await Promise.all(
    [...named].map(async ([sourceId, name]) =>
      (await trendsOf(cx, sourceId, now)).flatMap(({ property, points }) => {
        const shift = shiftOf(points.map((p) => p.reported));
        if (!shift) return [];
        const unit = unitLabel(points[0]!.unit);
        const label =
          `${name}: ${(propertyOf(property)?.label ?? property).toLowerCase()} ${shift.before} to ${shift.after} ${unit}`.trim();
        return [
          { trait: { id: `source:${sourceId}:${property}`, kind: 'source' as const, label }, after: Date.parse(points[shift.at - 1]!.at) },
        ];
      }),
    ),
  );
  return all.flat();
}
