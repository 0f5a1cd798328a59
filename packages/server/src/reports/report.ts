import { reportCode, type FindingView, type Report, type Specification, type Trend } from '@keen-mortar/contract';
import { ageWords, boundsOf, propertyOf, stateWord, unitLabel } from '@keen-mortar/core';
import { DateTime } from 'luxon';
import type { ReportContent, ReportGroup, ReportResult, ReportTest } from '../queries/report.js';
import { band } from './band.js';
import { INK, Paper, printableFormula, WIDTH } from './paper.js';

/** What stands on a report beside what was found. */
export interface Issued {
  readonly number: number;
  readonly at: Date;
  readonly by: string;
  readonly client: string | null;
  readonly replaces: number | null;
  readonly why: Report['why'];
  /** Address that leads back to the record. */
  readonly link: string;
  readonly specifications: readonly Specification[];
}

const LABEL = 150;
const VALUE = 92;
const LIMITS = 118;
const BAND = 84;

function head(paper: Paper, content: ReportContent, issued: Issued): void {
  const { project } = content;
  const code = reportCode(issued.number);
  paper.code(issued.link, WIDTH - 64, paper.y, 64);
  paper.say(code, { font: 'bold', size: 22, width: WIDTH - 80 }, 0);
  paper.say(content.title, { font: 'bold', size: 14, width: WIDTH - 80 }, 4);
  paper.say(`${project.name}, ${project.site} (${project.code})`, { size: 10.5, width: WIDTH - 80 });
  const when = DateTime.fromJSDate(issued.at, { zone: project.timezone }).toFormat('d LLLL yyyy HH:mm');
  paper.say(`Issued ${when} by ${issued.by}${issued.client === null ? '' : `, to ${issued.client}`}`, {
    colour: INK.soft,
    width: WIDTH - 80,
  });
  if (issued.replaces !== null)
    paper.say(`Replaces ${reportCode(issued.replaces)}, which is not to be used any more.${issued.why === null ? '' : ` ${issued.why}`}`, {
      font: 'bold',
      width: WIDTH - 80,
      colour: INK.out,
    });
  paper.y += 6;
  paper.rule(INK.ink, 1);
}

/** What several tests mean together, where a requirement is not met or somebody decides: once, however many tests it stands with. */
const asked = ({ groups, strengths, ofMix }: ReportContent): string[] =>
  [...ofMix, ...groups.flatMap((g) => (g.voided ? [] : g.findings)), ...strengths.tests.flatMap((t) => t.finding ?? [])]
    .filter((f) => f.grade === 'out' || f.grade === 'asks')
    .map((f) => `${f.title}: ${f.says}`);

/** What is out stands first: nobody has to look for it. */
function summary(paper: Paper, content: ReportContent): void {
  const all = content.groups.filter((g) => !g.voided).flatMap((g) => g.tests.map((test) => ({ group: g, test })));
  const count = (state: string): number => all.filter(({ test }) => test.state === state).length;
  const parts = (['within', 'edge', 'out', 'void', 'open', 'unjudged'] as const).flatMap((state) =>
    count(state) === 0 ? [] : [`${count(state)} ${stateWord(state)}`],
  );
  paper.say(
    `${content.count} ${content.count === 1 ? 'test' : 'tests'}${parts.length === 0 ? '' : `: ${parts.join(', ')}`}.`,
    { font: 'bold', size: 11 },
    3,
  );
  for (const says of new Set(asked(content))) paper.say(says, { colour: INK.out }, 1);
  for (const { group, test } of all.filter(({ test: t }) => t.state === 'out'))
    for (const r of test.results.filter((one) => one.verdict === 'out'))
      paper.say(`${group.title}: ${r.label} ${r.text}, limit ${r.limits}`, { colour: INK.out }, 1);
  paper.y += 6;
}

function facts(paper: Paper, group: ReportGroup): void {
  for (const [label, text] of group.facts) {
    const height = Math.max(12, paper.height(text, { size: 9, width: WIDTH - 96 }));
    paper.room(height);
    paper.at(label, 0, paper.y, { size: 9, colour: INK.soft, width: 92 });
    paper.at(text, 96, paper.y, { size: 9, width: WIDTH - 96 });
    paper.y += height + 1;
  }
  paper.y += 4;
}

function result(paper: Paper, r: ReportResult): void {
  const height = Math.max(13, paper.height(r.label, { width: LABEL - 16 }));
  paper.room(height);
  const { y } = paper;
  paper.shape(r.verdict, 0, y + 1, r.lower !== null && r.compared !== null && Number(r.compared) < Number(r.lower));
  paper.at(r.label, 14, y, { width: LABEL - 16 });
  paper.at(r.text, LABEL, y, { font: 'figures', size: 10, width: VALUE, align: 'right', colour: r.verdict === 'out' ? INK.out : INK.ink });
  paper.at(r.limits, LABEL + VALUE + 14, y, { size: 9, colour: INK.soft, width: LIMITS });
  band(paper, LABEL + VALUE + LIMITS + 20, y + 1, BAND, r);
  paper.at(r.verdict === null || r.limits === '' ? 'no limit' : stateWord(r.verdict), LABEL + VALUE + LIMITS + BAND + 30, y, {
    size: 9,
    font: r.verdict === 'out' ? 'bold' : 'text',
    colour: r.verdict === 'out' ? INK.out : INK.ink,
    width: 60,
  });
  paper.y += height + 1;
}

function test(paper: Paper, t: ReportTest, zone: string): void {
  paper.room(58);
  const when = DateTime.fromISO(t.at, { zone }).toFormat('d LLL HH:mm');
  paper.at(`${when}, ${t.by}`, WIDTH - 190, paper.y, { size: 9, colour: INK.soft, width: 190, align: 'right' });
  paper.say(t.title, { font: 'bold', size: 10.5, width: WIDTH - 200 }, 1);
  paper.say(`${t.method}${t.kit === null ? '' : `. With ${t.kit}`}`, { size: 8.5, colour: INK.soft }, 1);
  if (t.readings !== '') paper.say(`${t.readings}.`, { size: 8.5 }, 3);
  for (const r of t.results) result(paper, r);
  if (t.results.length === 0) paper.say('No result yet.', { colour: INK.soft });
  if (t.working.length > 0) {
    paper.say('Working', { size: 8.5, font: 'bold', x: 14 }, 1);
    for (const line of t.working) paper.say(printableFormula(line), { size: 8, x: 14, width: WIDTH - 14 }, 0.5);
  }
  for (const remark of t.remarks) paper.say(remark, { size: 8.5, x: 14, colour: INK.soft }, 1);
  paper.y += 5;
}

function trend(paper: Paper, t: Trend, specifications: readonly Specification[], zone: string): void {
  const unit = t.points.at(-1)!.unit;
  const limit = specifications.flatMap((s) => s.limits).find((l) => l.property === t.property && l.unit === unit);
  const { lower, upper } = limit ? boundsOf(limit) : {};
  const values = [...t.points.map((p) => Number(p.reported)), ...[lower, upper].flatMap((end) => (end === undefined ? [] : [Number(end)]))];
  const [least, most] = [Math.min(...values), Math.max(...values)];
  const room = (most - least || 1) * 0.12;
  const [height, left] = [74, 60];
  paper.room(height + 36);
  const label = propertyOf(t.property)?.label ?? t.property;
  paper.say(unitLabel(unit) ? `${label}, ${unitLabel(unit)}` : label, { font: 'bold', size: 9.5 }, 2);
  const top = paper.y;
  const y = (v: number): number => top + height - ((v - least + room) / (most - least + 2 * room)) * height;
  const [from, to] = [Date.parse(t.points[0]!.at), Date.parse(t.points.at(-1)!.at)];
  const x = (at: string): number => left + 6 + ((Date.parse(at) - from) / (to - from || 1)) * (WIDTH - left - 12);
  const [zoneTop, zoneBottom] = [upper === undefined ? top : y(Number(upper)), lower === undefined ? top + height : y(Number(lower))];
  if (limit) paper.box(left, zoneTop, WIDTH - left, zoneBottom - zoneTop, INK.zone);
  paper.box(left, top, WIDTH - left, height, null, INK.hair);
  for (const end of [lower, upper]) {
    if (end === undefined) continue;
    paper.line(left, y(Number(end)), WIDTH, y(Number(end)), INK.within, 1.2);
    paper.at(end, 0, y(Number(end)) - 5, { size: 8, font: 'figures', width: left - 6, align: 'right' });
  }
  // Where nothing limits it the axis says how far it went.
  if (!limit)
    for (const p of [t.points.find((one) => Number(one.reported) === least)!, t.points.find((one) => Number(one.reported) === most)!])
      paper.at(p.reported, 0, y(Number(p.reported)) - 5, { size: 8, font: 'figures', width: left - 6, align: 'right' });
  for (const [p, align] of [
    [t.points[0]!, 'left'],
    [t.points.at(-1)!, 'right'],
  ] as const)
    paper.at(DateTime.fromISO(p.at, { zone }).toFormat('d LLL'), left, top + height + 2, { size: 8, colour: INK.soft, align });
  t.points.slice(1).forEach((p, i) => {
    const before = t.points[i]!;
    paper.line(x(before.at), y(Number(before.reported)), x(p.at), y(Number(p.reported)), INK.soft, 0.6);
  });
  for (const p of t.points) paper.dot(x(p.at), y(Number(p.reported)), p.state === 'out' ? INK.out : INK.ink);
  paper.y = top + height + 18;
}

/** What several things on record mean together: said once, in the words of every other outlet. */
function finding(paper: Paper, f: FindingView): void {
  const out = f.grade === 'out' || f.grade === 'void';
  paper.say(f.says, { size: 8.5, x: 14, colour: out ? INK.out : INK.soft }, 1);
  for (const next of f.next) paper.say(next, { size: 8.5, x: 24, colour: INK.soft }, 1);
}

/** What broke, age by age, and what is still to come: nobody takes an interim report for the last word. */
function strengths(paper: Paper, { tests, coming }: ReportContent['strengths'], zone: string): void {
  if (tests.length === 0 && coming.length === 0) return;
  paper.room(60);
  paper.say('Strength tests', { font: 'bold', size: 12 }, 3);
  for (const t of tests) {
    const said = t.specimens.map(
      (s) => `${/-([A-Z]+)$/.exec(s.code)?.[1] ?? s.code} ${s.reported ?? 'void'}${s.left === null ? '' : ' (left out)'}`,
    );
    const head = `${t.code}, ${ageWords(t.ageDays)}`;
    const range = t.range === null ? '' : `${t.range} % apart${t.most === null ? '' : `, at most ${t.most} %`}`;
    paper.room(28);
    paper.at(head, 0, paper.y, { size: 9.5, width: 120 });
    paper.at(`${t.reported ?? '–'} ${unitLabel(t.unit)}`, 120, paper.y, { font: 'figures', size: 10, width: 80, align: 'right' });
    paper.at([said.join(', '), range].filter(Boolean).join('. '), 212, paper.y, { size: 9, width: WIDTH - 212 });
    paper.y += Math.max(13, paper.height([said.join(', '), range].filter(Boolean).join('. '), { size: 9, width: WIDTH - 212 })) + 1;
    if (t.finding) finding(paper, t.finding);
    for (const s of t.specimens)
      if (s.left !== null) paper.say(`${s.code} is left out: ${s.left}.`, { size: 8.5, x: 14, colour: INK.soft }, 1);
  }
  const at = (iso: string): string => DateTime.fromISO(iso, { zone }).toFormat('d LLL yyyy HH:mm');
  if (coming.length === 0) paper.say('Nothing of it is still to come.', { size: 9, colour: INK.soft }, 6);
  for (const c of coming)
    paper.say(
      `Still to come: ${c.code}, ${c.label}, from ${at(c.opensAt)}${c.endsAt === null ? '' : ` to ${at(c.endsAt)}`}.`,
      { size: 9 },
      1,
    );
  paper.y += 5;
}

/** The paper of a report: what is out first, then item by item what was found, with what it was found from. */
export async function reportPaper(content: ReportContent, issued: Issued): Promise<Buffer> {
  const code = reportCode(issued.number);
  const paper = new Paper(`${code} ${content.title}`, issued.at);
  head(paper, content, issued);
  summary(paper, content);
  strengths(paper, content.strengths, content.project.timezone);
  for (const f of content.ofMix) finding(paper, f);
  for (const t of content.trends) trend(paper, t, issued.specifications, content.project.timezone);
  for (const group of content.groups) {
    paper.room(96);
    paper.rule();
    paper.say(`${group.title}${group.voided ? ', voided: counts for nothing' : ''}`, { font: 'bold', size: 12 }, 3);
    facts(paper, group);
    for (const f of group.findings) finding(paper, f);
    for (const t of group.tests) test(paper, t, content.project.timezone);
  }
  paper.room(70);
  paper.rule();
  paper.say(
    'Results are of what was tested, as it was tested. Judgement on the work is for those who are responsible for it, by their contract and the code that applies.',
    { size: 8.5, colour: INK.soft },
    14,
  );
  paper.say('Checked by ________________________________      Date ____________________', { size: 9.5 });
  return paper.finish(`${code}, ${content.title}, ${content.project.name}`);
}
