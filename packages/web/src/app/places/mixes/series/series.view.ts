import type { MixSeries } from '@keen-mortar/contract';
import { NOT_COUNTING, unitLabel, type School, type SeriesOf, type ShiftCause, type SeriesView, type TraitKind } from '@keen-mortar/core';
import { DateTime } from 'luxon';

/** Only what counts for acceptance enters the series. */
export const counted = (s: MixSeries) => s.tests.filter((t) => t.notFor === null);

export const dayOf = (iso: string, zone: string): string => DateTime.fromISO(iso, { zone }).toFormat('d LLL');

/** How far a series moved, with its sign’s word: `2.9 MPa lower`. */
export function movedWords(view: SeriesView): string {
  const { shift, unit } = view;
  if (!shift) return '';
  const by = Number(shift.after) - Number(shift.before);
  return `${Math.abs(by).toFixed(unit === 'psi' ? 0 : 1)} ${unitLabel(unit)} ${by < 0 ? 'lower' : 'higher'}`;
}

/** What its series is of. @param earlier so many tests count before the first of those */
export const seriesOf = ({ accepted, project }: MixSeries, earlier: number): SeriesOf => ({
  specified: accepted.specified,
  system: project.system,
  school: accepted.school,
  earlier,
});

/** The school that decides first, the others beside it. */
export const schoolsOf = (s: MixSeries, view: SeriesView): (School & { readonly decides: boolean })[] => {
  const { school: own } = s.accepted;
  return view.schools.map((school) => ({ ...school, decides: school.id === own })).sort((a, b) => Number(b.decides) - Number(a.decides));
};

/** What is found of the mix at the age of its series; null where nothing is asked there. */
export const acceptanceOf = (s: MixSeries) => s.findings.find((f) => f.finding === 'mix-acceptance') ?? null;

/** What the series says in one sentence. */
export function headline(s: MixSeries, view: SeriesView): string {
  const name = s.mix.name;
  if (view.count === 0) return `${name} has no strength test yet`;
  const found = acceptanceOf(s);
  const says =
    s.accepted.specified === null
      ? `${name} has ${view.count} tests, and no specified strength to judge them by`
      : found === null || found.grade === 'open'
        ? `${name} has too few tests to be judged`
        : found.grade === 'fine'
          ? `${name} passes`
          : `${name} does not pass`;
  if (!view.shift) return says;
  const at = counted(s)[view.shift.at];
  return `${says}, ${found?.grade === 'out' ? 'and' : 'but'} it is ${movedWords(view)} since ${at ? dayOf(at.castAt, s.project.timezone) : ''}`;
}

export const KIND_PICTURES: Readonly<Record<TraitKind, 'heap' | 'mix' | 'kit' | 'person' | 'truck' | 'thermo'>> = {
  source: 'heap',
  revision: 'mix',
  kit: 'kit',
  person: 'person',
  plant: 'mix',
  truck: 'truck',
  season: 'thermo',
  remark: 'thermo',
};

/** `In 5 of 5 tests after, in none of 22 before. About 2.4 of the 2.9 MPa.` */
export function causeWords(c: ShiftCause, view: SeriesView): string {
  const before = c.before === 0 ? `in none of ${c.ofBefore}` : `in ${c.before} of ${c.ofBefore}`;
  const about = Math.abs(c.explains);
  const decimals = view.unit === 'psi' ? 0 : 1;
  const share = about >= (view.unit === 'psi' ? 15 : 0.1) ? ` About ${about.toFixed(decimals)} ${unitLabel(view.unit)} of it.` : '';
  return `In ${c.after} of ${c.ofAfter} tests after, ${before} before.${share}`;
}

/** Why some tests of the mix are not in the series. */
export function leftOutWords(s: MixSeries): string {
  const not = s.tests.filter((t) => t.notFor !== null);
  if (not.length === 0) return '';
  const why = [...new Set(not.map((t) => NOT_COUNTING[t.notFor!]))].join('; ');
  return `${not.length} ${not.length === 1 ? 'test is' : 'tests are'} not in it: ${why}.`;
}
