import {
  dayIn,
  entriesOf as inForceOf,
  type FindingView,
  type Item,
  type Project,
  type Reading,
  type ReportScope,
  type StrengthTestView,
  type Trend,
} from '@keen-mortar/contract';
import {
  ageWords,
  assemble,
  daysOf,
  isTold,
  fieldAt,
  ITEM_KINDS,
  keyedText,
  limitWords,
  lineWords,
  methodById,
  partOf,
  say,
  STRENGTH_FINDING,
  unitLabel,
  type AnyMethod,
  type Field,
  type Remark,
  type ResultField,
  type Shape,
  type VerdictState,
} from '@keen-mortar/core';
import { DateTime } from 'luxon';
import type { Cx } from '../db.js';
import { fault } from '../faults.js';
import { Refused } from '../problems.js';
import { entriesOf } from '../store/entries.js';
import { breaksToCome } from '../store/dues.js';
import { allIn, lineOf, itemsNamed } from '../store/items.js';
import { strengthsOfSets } from '../store/strengths.js';
import { ledgerLines, resultsOfTests, type StoredResult, type Wanted } from '../store/ledger.js';
import { mixHeads } from '../store/mixes.js';
import { people } from '../store/people.js';
import { aroundTests } from '../store/tests.js';
import { frameOf } from './around.js';
import { findingsOnPaths, findingsShown } from './findings.js';
import { trendsOf } from './sources.js';
import { benchShown } from './tests.js';

/** More tests make no report that anybody reads. */
const MOST_TESTS = 1500;
/** So many rows of a table are printed; the rest stays in the record. */
const MOST_ROWS = 40;

/** One result as it is printed. */
export interface ReportResult {
  readonly label: string;
  readonly text: string;
  readonly limits: string;
  readonly verdict: VerdictState | null;
  readonly lower: string | null;
  readonly upper: string | null;
  readonly compared: string | null;
}

export interface ReportTest {
  readonly title: string;
  readonly method: string;
  readonly at: string;
  readonly by: string;
  readonly kit: string | null;
  readonly readings: string;
  readonly results: readonly ReportResult[];
  /** How they came of the readings, line by line; nothing where the report is of too many tests for that. */
  readonly working: readonly string[];
  readonly state: VerdictState;
  /** Why it is void or has a remark, and why readings were corrected. */
  readonly remarks: readonly string[];
  readonly corrected: boolean;
}

export interface ReportGroup {
  readonly title: string;
  readonly facts: readonly (readonly [string, string])[];
  readonly voided: boolean;
  readonly tests: readonly ReportTest[];
  /** What several things on record mean together of it and of what it lies in, a sentence each: what is not as asked. */
  readonly findings: readonly FindingView[];
}

export interface ReportContent {
  readonly project: Project;
  readonly title: string;
  readonly groups: readonly ReportGroup[];
  /** Of a month: how each property went. */
  readonly trends: readonly Trend[];
  /** What is found of its mix. */
  readonly ofMix: readonly FindingView[];
  /** Strength tests of the sets that it is of, and what of them is still to come. */
  readonly strengths: StrengthsOf;
  readonly count: number;
}

const DAY = 'd LLLL yyyy';

/** Which tests a report is of, in the project’s own days. */
function scopeWanted(project: Project, scope: ReportScope): Wanted {
  const base = { projectId: project.id };
  if (scope.of === 'item') return { ...base, inItem: scope.itemId };
  const from = DateTime.fromISO(scope.of === 'day' ? scope.day : `${scope.month}-01`, { zone: project.timezone });
  const until = scope.of === 'day' ? from.plus({ days: 1 }) : from.plus({ months: 1 });
  return { ...base, ...(scope.of === 'month' ? { subjectId: scope.subjectId } : {}), from: from.toJSDate(), until: until.toJSDate() };
}

async function titleOf(cx: Cx, scope: ReportScope): Promise<string> {
  if (scope.of === 'day') return `Tests of ${DateTime.fromISO(scope.day, { zone: 'utc' }).toFormat(DAY)}`;
  if (scope.of === 'item') {
    const line = await lineOf(cx, scope.itemId);
    const item = line.at(-1)!;
    return `${ITEM_KINDS[item.kind].label} ${item.name ?? item.code}`;
  }
  const mix = (await mixHeads(cx, [scope.subjectId])).get(scope.subjectId);
  const called = mix ? `${mix.code} ${mix.name}` : (await itemsNamed(cx, [scope.subjectId]))[0]?.code;
  if (called === undefined)
    throw new Refused('invalid-input', 'There is no mix and no source with this id.', [
      fault('unknown', 'scope.subjectId', 'There is no mix and no source with this id.'),
    ]);
  return `${called}, ${DateTime.fromISO(`${scope.month}-01`, { zone: 'utc' }).toFormat('LLLL yyyy')}`;
}

/** What is said of a value: with its unit, in words where it is chosen, in the project’s time where it is a moment. */
function valueText(field: Field | undefined, value: unknown, zone: string): string {
  if (value === null || value === undefined || value === '') return '';
  if (typeof value === 'object' && 'text' in value) {
    const { text, unit } = value as { text: string; unit: string };
    return keyedText(text, unit as 'mm');
  }
  if (field?.kind === 'pick') return field.options[value as string] ?? (value as string);
  if (field?.kind === 'instant') return DateTime.fromISO(value as string, { zone }).toFormat('d LLL yyyy HH:mm');
  return typeof value === 'string' ? value : '';
}

/** Everything that was read, in a line: tables row by row. */
function readingsText(m: AnyMethod, readings: readonly Reading[], zone: string): string {
  const { inputs } = assemble(m.fields as Shape, inForceOf(readings));
  return Object.entries(inputs as Readonly<Record<string, unknown>>)
    .flatMap(([id, value]): string[] => {
      const field = fieldAt(m, id);
      if (!field) return [];
      if (!Array.isArray(value)) {
        const text = valueText(field, value, zone);
        return text === '' ? [] : [`${field.label} ${text}`];
      }
      // What a machine wrote down is looked at as a picture, not read.
      if (field.minor) return [`${field.label}: ${value.length} points, on record`];
      const rows = (value as readonly Readonly<Record<string, unknown>>[]).map((row) =>
        Object.entries((field as { of: Shape }).of)
          .map(([column, of]) => valueText(of, row[column], zone))
          .filter(Boolean)
          .join(' '),
      );
      const more = rows.length > MOST_ROWS ? ` … and ${rows.length - MOST_ROWS} more on record` : '';
      return rows.length === 0 ? [] : [`${field.label}: ${rows.slice(0, MOST_ROWS).join('; ')}${more}`];
    })
    .join('. ');
}

/** What is known of an item and of what it lies in. */
function factsOfLine(line: readonly Item[], zone: string, mixes: ReadonlyMap<string, { code: string; name: string }>): [string, string][] {
  return line.flatMap((item): [string, string][] => {
    const kind = ITEM_KINDS[item.kind];
    const known = Object.entries(kind.facts).flatMap(([id, field]): string[] => {
      if (field.kind === 'rows') return [];
      const text = valueText(field, (item.facts as Readonly<Record<string, unknown>>)[id], zone);
      return text === '' ? [] : [`${field.label.toLowerCase()} ${text}`];
    });
    const mix = item.subjectId === null ? undefined : mixes.get(item.subjectId);
    const called = item.name !== null && item.name !== item.code ? `${item.code} ${item.name}` : item.code;
    return [[kind.label, [called, ...(mix && item.parentId === null ? [`of ${mix.code} ${mix.name}`] : []), ...known].join(', ')]];
  });
}

const limitsText = (r: StoredResult): string =>
  r.limitUnit === null ? '' : limitWords({ unit: r.limitUnit, lower: r.lower ?? undefined, upper: r.upper ?? undefined });

/** All that a report of something says, as it stands on record now. */
export async function reportContent(cx: Cx, project: Project, scope: ReportScope, now: Date): Promise<ReportContent> {
  const title = await titleOf(cx, scope);
  const lines = await ledgerLines(cx, scopeWanted(project, scope), { sort: 'at', descending: false }, null, MOST_TESTS + 1);
  if (lines.length > MOST_TESTS)
    throw new Refused('too-large', `That is more than ${MOST_TESTS} tests: make a report of a shorter time, or of less.`);
  const ids = lines.map((l) => l.testId);
  const [results, readings, around, names] = await Promise.all([
    resultsOfTests(cx, ids),
    entriesOf(cx, ids),
    aroundTests(cx, ids),
    people(cx).then((all) => new Map(all.map((p) => [p.id, p.name]))),
  ]);
  const zone = project.timezone;
  const worked =
    scope.of === 'item' && ids.length <= MOST_WORKED
      ? await workingOf(cx, [...new Set(lines.map((l) => l.itemId))])
      : new Map<string, string[]>();
  const test = (line: (typeof lines)[number]): ReportTest => {
    const m = methodById(line.method)!;
    const fields = m.results as Readonly<Record<string, ResultField>>;
    const beside = around.get(line.testId);
    const source = m.variants[line.variant]?.source;
    const own = readings.get(line.testId) ?? [];
    const corrections = own.flatMap((r) => (r.supersedes !== null && r.reason ? [`Corrected: ${r.reason}`] : []));
    return {
      title: `${m.title}${line.retest ? ', again' : ''}`,
      method: source ? `${source.designation} (${source.edition}), ${m.variants[line.variant]!.label}` : line.variant,
      at: line.at,
      by: names.get(line.by) ?? '',
      kit: beside?.kit ?? null,
      readings: readingsText(m, own, zone),
      results: results
        .filter((r) => r.testId === line.testId && (r.reported !== null || (r.state === 'given' && fields[r.result]?.main)))
        // What is judged comes before what is only told.
        .sort((a, c) => Number(a.limitUnit === null) - Number(c.limitUnit === null))
        .map((r) => ({
          label: fields[r.result]?.label ?? r.result,
          text: line.state === 'void' ? 'not reported' : `${r.reported ?? r.figure ?? ''} ${unitLabel(r.unit)}`.trim(),
          limits: limitsText(r),
          verdict: line.state === 'void' ? 'void' : r.verdict,
          lower: r.lower,
          upper: r.upper,
          compared: r.compared,
        })),
      // A void test gives no figure, in its working neither.
      working: line.state === 'void' ? [] : (worked.get(line.testId) ?? []),
      state: line.state,
      remarks: [...(beside?.reasons ?? []), ...(beside?.notes ?? []).filter((n) => n.code === 'own-copy')]
        .map((r: Remark) => say(r.code, r.params))
        .concat([...new Set(corrections)]),
      corrected: own.some((r) => r.supersedes !== null),
    };
  };
  const items = [...new Set(lines.map((l) => l.itemId))];
  const groups: ReportGroup[] = [];
  const found = await findingsOnPaths(cx, items, now);
  const mixes = new Map<string, { code: string; name: string }>();
  for (const itemId of items) {
    const line = await lineOf(cx, itemId);
    const wanted = line.flatMap((i) => (i.subjectId !== null && !mixes.has(i.subjectId) ? [i.subjectId] : []));
    for (const [id, mix] of await mixHeads(cx, [...new Set(wanted)])) mixes.set(id, mix);
    const item = line.at(-1)!;
    groups.push({
      title: `${ITEM_KINDS[item.kind].label} ${item.code}`,
      facts: factsOfLine(line, zone, mixes),
      voided: line.some((i) => i.voided),
      tests: lines.filter((l) => l.itemId === itemId).map(test),
      findings: (found.get(itemId) ?? []).filter(isTold),
    });
  }
  const trends = scope.of === 'month' ? await monthTrends(cx, project, scope) : [];
  const strengths = scope.of === 'item' ? await strengthsIn(cx, scope.itemId, now) : NO_STRENGTHS;
  const ofMix = scope.of === 'month' ? (await findingsShown(cx, [scope.subjectId], now)).filter(isTold) : [];
  return { project, title: titled(title, strengths), groups, ofMix, trends, strengths, count: lines.length };
}

export interface StrengthsOf {
  /** With what is found of each. */
  readonly tests: readonly (StrengthTestView & { readonly finding: FindingView | null })[];
  readonly coming: readonly { readonly code: string; readonly label: string; readonly opensAt: string; readonly endsAt: string | null }[];
}
const NO_STRENGTHS: StrengthsOf = { tests: [], coming: [] };
/** Nobody molds more sets of one thing. */
const MOST_SETS = 200;

/** Strength tests of a set, or of the sets in something, and their breaks to come. */
async function strengthsIn(cx: Cx, itemId: string, now: Date): Promise<StrengthsOf> {
  const within = await allIn(cx, itemId, MOST_SETS * 10);
  const own = (await itemsNamed(cx, [itemId])).concat(within).filter((i) => !i.voided);
  const sets = own.filter((i) => i.kind === 'specimen-set').slice(0, MOST_SETS);
  if (sets.length === 0) return NO_STRENGTHS;
  const ids = sets.map((s) => s.id);
  const [tests, coming] = await Promise.all([strengthsOfSets(cx, ids), breaksToCome(cx, ids)]);
  const found = await findingsShown(cx, ids, now);
  return {
    tests: tests.map((t) => ({
      ...t,
      finding: found.find((f) => f.finding === STRENGTH_FINDING && f.subjectId === t.setId && f.part === partOf(t)) ?? null,
    })),
    coming: coming.map((d) => ({
      code: d.code,
      label: ageWords(daysOf((d.facts as { age?: unknown }).age) ?? 0),
      opensAt: d.opensAt.toISOString(),
      endsAt: d.endsAt?.toISOString() ?? null,
    })),
  };
}

/** A report of breaks says whether it is the last word. */
const titled = (title: string, { tests, coming }: StrengthsOf): string =>
  tests.length === 0 ? title : `${title}, ${coming.length > 0 ? 'interim' : 'final'}`;

/** A worksheet is of one sample, and no test of it is longer on paper. */
const MOST_WORKED = 24;
const MOST_LINES = 60;

async function workingOf(cx: Cx, itemIds: readonly string[]): Promise<Map<string, string[]>> {
  const shown = await Promise.all(itemIds.map(async (id) => benchShown(cx, await frameOf(cx, id))));
  return new Map(
    shown
      .flatMap(({ bench }) => bench.tests)
      .map((t) => {
        const lines = t.kept?.evaluation.working ?? [];
        const more = lines.length - MOST_LINES;
        return [t.id, [...lines.slice(0, MOST_LINES).map(lineWords), ...(more > 0 ? [`and ${more} more lines, on record`] : [])]];
      }),
  );
}

async function monthTrends(cx: Cx, project: Project, scope: Extract<ReportScope, { of: 'month' }>): Promise<Trend[]> {
  const until = DateTime.fromISO(`${scope.month}-01`, { zone: project.timezone }).plus({ months: 1 });
  const all = await trendsOf(cx, scope.subjectId, until.toJSDate());
  return all
    .map((t) => ({ ...t, points: t.points.filter((p) => dayIn(project.timezone, p.at).startsWith(scope.month)) }))
    .filter((t) => t.points.length > 1);
}
