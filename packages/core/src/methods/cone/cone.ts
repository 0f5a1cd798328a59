import { instant, method, pick, rows, YES_NO, type Citation } from '../definition.js';
import { clock } from '../evaluate.js';

const C128: Citation = { designation: 'ASTM C128', edition: '2022' };
const T84: Citation = { designation: 'AASHTO T 84', edition: '2022' };

type Look = 'kept' | 'slight' | 'half' | 'fell' | 'knocked';

/** Where the sand stands after a trial. */
export type ConeState = 'start' | 'wetter' | 'ssd' | 'cannot_tell' | 'over_dried' | 'no_verdict' | 'too_soon';

const CONE_WORDS: Readonly<Record<ConeState, string>> = {
  start: 'not tried yet',
  wetter: 'wetter than SSD: go on drying',
  ssd: 'SSD: weigh now',
  cannot_tell: 'perhaps past SSD: mix in water, cover, try again',
  over_dried: 'past SSD: mix in water, cover, try again',
  no_verdict: 'not told by a knocked cone: try again',
  too_soon: 'still taking up water: keep it covered',
};

type ConeParams = {
  /** How much of a slump is SSD: a slight one with a part standing, or about half. */
  slump: 'slight' | 'half';
  coverMinutes: string;
};

interface Trial {
  readonly at: number;
  readonly look: Look;
}

interface Fold {
  readonly state: ConeState;
  /** A trial since the last wetting kept its shape: SSD is reached from the wet side. */
  readonly fromWet: boolean;
  /** When water was last mixed in, ms. */
  readonly wettedAt: number | null;
}

const START: Fold = { state: 'start', fromWet: false, wettedAt: null };

/** One trial onto the log: a small state machine, so that the log alone says where the sand stands. */
export function nextCone(before: Fold, trial: Trial, p: ConeParams): Fold {
  const covered = before.wettedAt === null ? null : trial.at - before.wettedAt;
  if (covered !== null && covered < Number(p.coverMinutes) * 60_000) return { ...before, state: 'too_soon' };
  const settled: Fold = { ...before, wettedAt: null };
  if (trial.look === 'knocked') return { ...settled, state: 'no_verdict' };
  if (trial.look === 'fell') return { state: 'over_dried', fromWet: false, wettedAt: trial.at };
  if (trial.look === 'kept') return { ...settled, state: 'wetter', fromWet: true };
  // The school of about half goes on drying after a slight slump.
  if (trial.look === 'slight' && p.slump === 'half' && before.fromWet) return { ...settled, state: 'wetter' };
  if (before.fromWet) return { ...settled, state: 'ssd' };
  return { state: 'cannot_tell', fromWet: false, wettedAt: trial.at };
}

export const cone = method({
  id: 'cone',
  on: ['field-sample', 'portion'],
  suits: { 'source.kind': ['fine'] },
  title: 'Cone test adviser',
  names: ['cone', 'cone test', 'SSD', 'saturated surface-dry', 'fine aggregate'],
  follows: [C128, T84],
  about: 'Whether damp sand has reached SSD: by its trials at the cone since water was last mixed in.',
  panel: 'cone',
  fields: {
    trials: rows('Trials', {
      at: instant('At'),
      look: pick('What the sand did', {
        kept: 'Kept its shape',
        slight: 'Slumped a little, a part stands',
        half: 'About half fell',
        fell: 'Fell apart',
        knocked: 'Knocked on lifting',
      }),
    }),
    override: pick('I judge it differently', { no: 'No', ssd: 'To me it is SSD' }, { optional: true, usual: 'no', minor: true }),
  },
  gives: { weigh: { as: 'test.cone', to: 'item' } },
  results: {
    state: { label: 'The sand is', symbol: 'state', units: { si: '1', us: '1' }, words: CONE_WORDS, main: true },
    log: { label: 'After each trial', symbol: 'log', units: { si: '1', us: '1' }, along: 'trials', words: CONE_WORDS },
    weigh: { label: 'May be weighed', symbol: 'weigh', units: { si: '1', us: '1' }, words: YES_NO },
    wait: { label: 'Cover for at least', symbol: 'wait', units: { si: 'min', us: 'min' } },
  },
  variants: {
    slight: {
      label: 'slight: a standing part remains',
      source: T84,
      params: { slump: 'slight', coverMinutes: '30' } satisfies ConeParams as ConeParams,
    },
    half: {
      label: 'about half: dries the sand a little further, so lower absorption',
      source: C128,
      params: { slump: 'half', coverMinutes: '30' } satisfies ConeParams as ConeParams,
    },
  },
  steps: [
    { text: 'Overfill, 25 light drops from about 5 mm, brush away round the base, hold down, lift straight up.' },
    { text: 'Start from the wet side: the first trial must keep its shape.' },
    { text: 'Warm air only while you stand by.', caution: true },
  ],
  example: {
    trials: [
      { at: '2026-05-13T07:10:00Z', look: 'kept' },
      { at: '2026-05-13T07:35:00Z', look: 'kept' },
      { at: '2026-05-13T07:52:00Z', look: 'slight' },
    ],
  },
  run(r) {
    const { c, x, p } = r;
    const trials = (x.trials ?? []).flatMap((t): Trial[] =>
      t.at === null || t.look === null ? [] : [{ at: Date.parse(t.at), look: t.look }],
    );
    if (trials.length === 0 || trials.length < (x.trials ?? []).length)
      return r.missing(trials.length === 0 ? 'trials' : `trials.${trials.length}.look`);
    const log: Fold[] = [];
    for (const trial of trials) log.push(nextCone(log.at(-1) ?? START, trial, p));
    const last = log.at(-1) ?? START;
    r.says('state', [last.state]);
    r.says(
      'log',
      log.map((fold) => fold.state),
    );
    r.says('weigh', [last.state === 'ssd' || x.override === 'ssd' ? 'yes' : 'no']);
    if (last.wettedAt !== null) r.result('wait', c.num(p.coverMinutes), 'min');
    if (last.state === 'too_soon') r.note('cone-too-soon', { least: clock(Number(p.coverMinutes) * 60) });
    if (last.state === 'cannot_tell') r.note('cone-cannot-tell');
    if (last.state === 'over_dried') r.note('cone-over-dried');
    if (x.override === 'ssd' && last.state !== 'ssd') r.marks('cone-overridden');
  },
});
