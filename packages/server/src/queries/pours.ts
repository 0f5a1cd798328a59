import {
  revisionAt,
  loadView,
  type Amount,
  type Item,
  type Load,
  type Mark,
  type Mix,
  type Page,
  type Pour,
  type PourDetail,
  type SampleSummary,
} from '@keen-mortar/contract';
import { exact, FRESH_TESTS, methodById, randomLoads, unitLabel } from '@keen-mortar/core';
import type { Cx } from '../db.js';
import { notFound } from '../problems.js';
import { drawPaper } from '../reports/draw.js';
import { findingsShown } from './findings.js';
import { childrenOf, itemOf, itemsOf } from '../store/items.js';
import { resultsOfTests, type StoredResult } from '../store/ledger.js';
import { mixHeads, mixOf } from '../store/mixes.js';
import { personOf } from '../store/people.js';
import { projectOf } from '../store/projects.js';
import { specificationsNamed } from '../store/specifications.js';
import { standingOfItems, type Standing } from '../store/standing.js';
import { testsOfItems, type TestRecord } from '../store/tests.js';

function weatherOf(facts: Readonly<Record<string, unknown>>): string | null {
  const air = facts['air'] as Amount | undefined;
  const said = [facts['weather'] as string | undefined, air && `${air.text} ${unitLabel(air.unit)}`].filter(Boolean);
  return said.length === 0 ? null : said.join(', ');
}

export const pourView = (item: Item, mix: Pick<Mix, 'code' | 'name'>): Pour => {
  const facts = item.facts as Readonly<Record<string, unknown>>;
  return {
    id: item.id,
    projectId: item.projectId,
    mixId: item.subjectId!,
    name: item.name ?? '',
    element: facts['element'] as string,
    on: item.on,
    planned: facts['planned'] as Pour['planned'] & Amount,
    mixCode: mix.code,
    mixName: mix.name,
    weather: weatherOf(facts),
    loads: item.children,
    samples: item.samples,
    out: item.outs,
  };
};

export async function pours(cx: Cx, projectId: string, offset: number, limit: number): Promise<Page<Pour>> {
  const { items, total } = await itemsOf(cx, projectId, 'pour', offset, limit);
  const mixes = await mixHeads(cx, [...new Set(items.map((i) => i.subjectId!))]);
  return { items: items.map((item) => pourView(item, mixes.get(item.subjectId!)!)), total };
}

/** Loads of a pour with the revision that each was batched to. */
const loadsFrom = (items: readonly Item[], mix: Mix): Load[] =>
  items.flatMap((item) => {
    const revision = mix.revisions.find((r) => r.id === item.revisionId);
    return revision ? [loadView(item, revision)] : [];
  });

/** @param now the revision that is in force then says what is asked of the pour */
export async function pourDetail(cx: Cx, id: string, now: Date): Promise<PourDetail> {
  const item = await itemOf(cx, id, 'pour');
  const mix = await mixOf(cx, item.subjectId!);
  const loads = await childrenOf(cx, [id]);
  const samples = (
    await childrenOf(
      cx,
      loads.map((l) => l.id),
    )
  ).filter((i) => i.kind === 'sample');
  const standing = await standingOfItems(
    cx,
    samples.map((s) => s.id),
  );
  const results = await resultsOfTests(cx, [...new Set(standing.filter((s) => s.state === 'out').map((s) => s.testId))]);
  return {
    ...pourView(item, mix),
    readAt: now.toISOString(),
    project: await projectOf(cx, item.projectId),
    mix,
    specifications: await specificationsNamed(cx, revisionAt(mix.revisions, now.getTime())?.specificationIds ?? []),
    loadList: loadsFrom(loads, mix),
    findings: await findingsShown(cx, [id, ...loads.map((l) => l.id), ...samples.map((s) => s.id)], now),
    drawn: await drawnOf(cx, id),
    sampleList: samples.map((sample) =>
      summary(
        sample,
        loads.find((l) => l.id === sample.parentId),
        standing.filter((s) => s.itemId === sample.id),
        results,
      ),
    ),
  };
}

/** The newest draw of a pour’s loads. */
const drawOf = async (cx: Cx, pourId: string): Promise<TestRecord | undefined> =>
  (await testsOfItems(cx, [pourId])).findLast((t) => t.method === randomLoads.id && t.newest !== null);

/** The same to print; there is none where nothing was drawn. */
export async function drawnPaper(cx: Cx, pourId: string, now: Date): Promise<{ name: string; pdf: Buffer }> {
  const pour = await itemOf(cx, pourId, 'pour');
  const drawn = await drawOf(cx, pourId);
  if (!drawn) throw notFound('draw', pourId);
  const [mix, person, { timezone }] = await Promise.all([
    mixOf(cx, pour.subjectId!),
    personOf(cx, drawn.by),
    projectOf(cx, pour.projectId),
  ]);
  const around = { mix: `${mix.code}, ${mix.name}`, by: person?.name ?? '', timezone, now };
  return { name: `loads-${pour.on}`, pdf: await drawPaper(pour, drawn, around) };
}

/** What it said. */
async function drawnOf(cx: Cx, pourId: string): Promise<PourDetail['drawn']> {
  const drawn = await drawOf(cx, pourId);
  const said = drawn?.newest?.frozen.said.results ?? [];
  const numbers = (id: string): number[] => (said.find((r) => r.id === id)?.words ?? []).map(Number);
  return drawn ? { loads: numbers('sample'), spares: numbers('spares') } : null;
}

export async function loadOf(cx: Cx, id: string): Promise<Load> {
  const item = await itemOf(cx, id, 'load');
  const pour = await itemOf(cx, item.parentId!);
  return loadsFrom([item], await mixOf(cx, pour.subjectId!))[0]!;
}

export async function loads(cx: Cx, pourId: string, offset: number, limit: number): Promise<Page<Load>> {
  const pour = await itemOf(cx, pourId, 'pour');
  const all = loadsFrom(await childrenOf(cx, [pourId]), await mixOf(cx, pour.subjectId!));
  return { items: all.slice(offset, offset + limit), total: all.length };
}

const summary = (item: Item, load: Item | undefined, standing: readonly Standing[], results: readonly StoredResult[]): SampleSummary => ({
  id: item.id,
  label: item.code,
  loadId: item.parentId!,
  createdAt: ((item.facts as { portions?: { at: string }[] }).portions ?? []).map((p) => p.at).sort()[0] ?? item.at,
  by: item.by,
  marks: item.voided || load?.voided ? [] : marksOf(standing, results),
  voided: item.voided || load?.voided === true,
});

/** In the order of the work, then as the method lists its results. */
const placeOf = ({ method, result }: Standing): number =>
  FRESH_TESTS.indexOf(method) * 100 + Object.keys(methodById(method)?.results ?? {}).indexOf(result);

/** One mark for each result that stands: of tests that were not made because of each other, each its own. */
export const marksOf = (standing: readonly Standing[], results: readonly StoredResult[]): Mark[] =>
  [...standing]
    .sort((a, b) => placeOf(a) - placeOf(b) || a.at.getTime() - b.at.getTime())
    .map((s) => ({
      method: s.method,
      result: s.result,
      label: methodById(s.method)?.results[s.result]?.label ?? s.result,
      state: s.state,
      validity: s.validity,
      reported: s.reported,
      unit: unitLabel(s.unit),
      ...sideOf(s, results),
    }));

/** On which side of its limit a result is out. */
function sideOf(s: Standing, results: readonly StoredResult[]): Pick<Mark, 'side'> {
  const r = results.find((one) => one.testId === s.testId && one.result === s.result);
  if (s.state !== 'out' || !r?.compared) return {};
  return { side: r.lower !== null && exact(r.compared).compare(exact(r.lower)) < 0 ? 'lower' : 'upper' };
}
