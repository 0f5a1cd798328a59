import type { MixSeries } from '@keen-mortar/contract';
import { seriesHeadline, type School, type SeriesOf, type SeriesView, type TraitKind } from '@keen-mortar/core';
import { DateTime } from 'luxon';

/** Only what counts for acceptance enters the series. */
export const counted = (s: MixSeries) => s.tests.filter((t) => t.notFor === null);

export const dayOf = (iso: string, zone: string): string => DateTime.fromISO(iso, { zone }).toFormat('d LLL');

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
  const at = view.shift ? counted(s)[view.shift.at] : undefined;
  const head = { name: s.mix.name, specified: s.accepted.specified !== null, grade: acceptanceOf(s)?.grade ?? null };
  return seriesHeadline({ ...head, since: at ? dayOf(at.castAt, s.project.timezone) : '' }, view);
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
