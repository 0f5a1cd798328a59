import { fieldAt, keyedFields, stepsFor, unitLabel, type AnyMethod, type Field, type Shape, type System } from '@keen-mortar/core';
import { INK, Paper, WIDTH } from './paper.js';

const ROWS = 12;
const LINE = 24;
/** More columns than these do not fit across a page. */
const MOST_COLUMNS = 8;

/** What is written on every sheet, whatever is tested. */
const HEADS = ['Sample or specimen', 'Lies in (load, source)', 'Day', 'Started at', 'Finished at', 'By', 'Instrument and its number'];

const unitOf = (field: Field, system: System): string =>
  field.kind === 'qty' ? unitLabel(field.units[system]) : field.kind === 'instant' ? 'day, time' : '';

function boxes(paper: Paper, labels: readonly string[], columns: number): void {
  const width = WIDTH / columns;
  labels.forEach((label, i) => {
    const column = i % columns;
    if (column === 0) {
      if (i > 0) paper.y += 34;
      paper.room(34);
    }
    paper.at(label, column * width + 3, paper.y + 2, { size: 8, colour: INK.soft, width: width - 8 });
    paper.box(column * width, paper.y, width, 32, null, INK.hair);
  });
  paper.y += 40;
}

function plain(paper: Paper, field: Field, system: System): void {
  const about = [unitOf(field, system), field.optional ? 'optional' : '', field.hint ?? ''].filter(Boolean).join(', ');
  const options = field.kind === 'pick' ? Object.values(field.options) : [];
  const heights = options.map((option) => paper.height(option, { size: 9, width: WIDTH - 332 }) + 4);
  const height = Math.max(
    LINE,
    heights.reduce((sum, one) => sum + one, 6),
    paper.height(`${field.label} ${about}`, { width: 210 }) + 6,
  );
  paper.room(height);
  paper.at(field.label, 0, paper.y + 4, { width: 210 });
  paper.at(about, 214, paper.y + 4, { size: 8, colour: INK.soft, width: 96 });
  if (options.length > 0)
    options.forEach((option, i) => {
      const y = paper.y + heights.slice(0, i).reduce((sum, one) => sum + one, 3);
      paper.box(316, y, 9, 9, null);
      paper.at(option, 332, y - 1, { size: 9, width: WIDTH - 332 });
    });
  else paper.line(316, paper.y + LINE - 4, WIDTH, paper.y + LINE - 4, INK.ink, 0.6);
  paper.y += height;
}

function table(paper: Paper, field: Field & { readonly kind: 'rows' }, system: System): void {
  const columns = Object.values(field.of as Shape).slice(0, MOST_COLUMNS);
  const width = WIDTH / Math.max(1, columns.length);
  const head = Math.max(...columns.map((c) => paper.height(`${c.label} ${unitOf(c, system)}`, { size: 8, width: width - 6 }))) + 6;
  paper.room(head + LINE * 3 + 16);
  paper.say(field.label, { font: 'bold' });
  columns.forEach((c, i) =>
    paper.at(`${c.label}${unitOf(c, system) ? `, ${unitOf(c, system)}` : ''}`, i * width + 3, paper.y + 2, { size: 8, width: width - 6 }),
  );
  columns.forEach((_c, i) => paper.box(i * width, paper.y, width, head, null, INK.soft));
  paper.y += head;
  for (let row = 0; row < ROWS; row++) {
    paper.room(LINE);
    columns.forEach((_c, i) => paper.box(i * width, paper.y, width, LINE, null, INK.hair));
    paper.y += LINE;
  }
  paper.y += 6;
}

/** A sheet to write a test on by hand, for the day the tablet dies: its fields, its steps and its cautions. */
export async function fieldSheet(m: AnyMethod, variant: string, system: System, at: Date): Promise<Buffer> {
  const v = m.variants[variant]!;
  const paper = new Paper(`${m.title}, field sheet`, at);
  paper.say(m.title, { font: 'bold', size: 18 }, 1);
  paper.say(`${v.source.designation} (${v.source.edition}), ${v.label}`, { colour: INK.soft }, 6);
  const steps = stepsFor(m, v.params as Parameters<typeof stepsFor>[1]);
  for (const s of steps.filter((one) => one.caution)) paper.say(`Caution: ${s.text}`, { font: 'bold', size: 9.5, colour: INK.out });
  boxes(paper, HEADS, 4);
  for (const [id] of keyedFields(m, variant)) {
    const field = fieldAt(m, id)!;
    if (field.kind === 'rows') table(paper, field, system);
    else plain(paper, field, system);
  }
  paper.y += 4;
  boxes(paper, ['What was seen: anything that strayed, and why'], 1);
  const told = steps.filter((one) => !one.caution);
  if (told.length > 0) {
    paper.room(40);
    paper.say('Steps', { font: 'bold', size: 11 });
    told.forEach((s, i) => paper.say(`${i + 1}.  ${s.text}`, { size: 9 }));
  }
  paper.say(
    'Write figures as they are read, with their last place. Strike out what is wrong once, so that it can be read still, and write the right one beside it.',
    { size: 8.5, colour: INK.soft },
  );
  return paper.finish(`${m.title}, field sheet: keyed afterwards with the times that stand here`);
}
