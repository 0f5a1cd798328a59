import {
  IMPORT_IDS,
  importTable,
  type ImportAnswer,
  type ImportWhat,
  type LedgerPage,
  type Mix,
  type Item,
  type Page,
  type Problem,
  type Project,
  type Sheet,
} from '@keen-mortar/contract';
import Papa from 'papaparse';
import { quantity } from '../src/commands/import-lines.js';
import { by } from './bench.js';
import { Harness, id } from './harness.js';

/** No mix is older than today here: what is batched by one is of today too. */
const TODAY = new Date().toISOString().slice(0, 16).replace('T', ' ');
const csvOf = (what: ImportWhat): string =>
  Papa.unparse([importTable(what).columns.map((c) => c.head), ...importTable(what).example.map((row) => [...row])]).replaceAll(
    '2026-11-12 08:05',
    TODAY,
  );

describe('what a lab brings in on its first day', () => {
  let h: Harness;
  let projectId: string;
  beforeAll(async () => {
    h = await Harness.withDemo();
    projectId = await project('NEW');
  });
  afterAll(() => h.stop());

  const project = async (code: string): Promise<string> => {
    const made = await h.post<Project & Problem>('/projects', {
      id: id(),
      by,
      code,
      name: 'A new lab',
      site: 'Quillmouth',
      system: 'si',
      practice: 'us-astm',
      timezone: 'Etc/UTC',
    });
    if (made.status !== 201) throw new Error(JSON.stringify(made.body));
    return made.body.id;
  };

  const bring = (what: ImportWhat, csv: string, dry = false, writeId = id(), into = projectId) =>
    h.post<ImportAnswer & Problem>('/imports', { id: writeId, by, projectId: into, what, csv, dry });
  const rows = async () =>
    Promise.all([
      h.count('item', 'project_id = ?', [projectId]),
      h.count('specification', 'project_id = ?', [projectId]),
      h.count('mix', 'project_id = ?', [projectId]),
      h.count('equipment', 'project_id = ?', [projectId]),
      h.count('ledger', 'project_id = ?', [projectId]),
      h.count('change_log', 'project_id = ?', [projectId]),
    ]);
  /** Of the first source: what the example of tests is of. */
  const fieldSample = async (into: string) => {
    const [source] = (await h.get<Page<Item>>(`/items?project=${into}&kind=source`)).body.items;
    const facts = { takenAt: '2026-08-30T08:00:00.000Z', from: 'stockpile' };
    const made = await h.post<Sheet & Problem>('/items', {
      id: id(),
      by,
      kind: 'field-sample',
      projectId: into,
      parentId: source!.id,
      facts,
    });
    if (made.status !== 201 || made.body.item.code !== 'B-1') throw new Error(JSON.stringify(made.body));
  };
  /** Of the first mix: what the example of tickets is of. */
  const pour = async (into: string) => {
    const [mix] = (await h.get<Page<Mix>>(`/mixes?project=${into}`)).body.items;
    const planned = { text: '30', unit: 'm3' };
    const made = await h.post<Problem>('/pours', {
      id: id(),
      by,
      projectId: into,
      mixId: mix!.id,
      name: 'Deck west',
      element: 'Deck',
      on: '2026-11-12',
      planned,
    });
    if (made.status !== 201) throw new Error(JSON.stringify(made.body));
  };
  const faults = (answer: { body: Problem }) => (answer.body.errors ?? []).map((e) => e.path);

  it('the example of each table comes in, in their order, and a dry run leaves no trace', async () => {
    for (const what of IMPORT_IDS) {
      if (what === 'tests') await fieldSample(projectId);
      if (what === 'loads') await pour(projectId);
      const before = await rows();
      const dry = await bring(what, csvOf(what), true);
      expect([what, dry.status, dry.body.dry]).toEqual([what, 200, true]);
      expect(await rows()).toEqual(before);
      const writeId = id();
      const done = await bring(what, csvOf(what), false, writeId);
      expect([done.status, done.body.made]).toEqual([201, dry.body.made]);
      // The same write again changes nothing.
      const after = await rows();
      expect((await bring(what, csvOf(what), false, writeId)).status).toBe(201);
      expect(await rows()).toEqual(after);
    }
    const mix = (await h.get<Page<Mix>>(`/mixes?project=${projectId}`)).body.items[0]!;
    expect([mix.code, mix.revisions[0]?.ingredients.length, mix.revisions[0]?.specificationIds.length]).toEqual(['D-32A', 3, 1]);
    expect(mix.revisions[0]?.ingredients[2]?.sourceId).toBeDefined();
  });

  it('a ticket has its weights as scaled; what cannot be is said at its line', async () => {
    const [made] = (await h.get<Page<Item>>(`/items?project=${projectId}&kind=load`)).body.items;
    expect([made!.number, made!.code]).toEqual([1, 'Load 1']);
    const facts = made!.facts as unknown as {
      ticket: string;
      plant: string;
      materials: { name: string; actual: object; target: object }[];
    };
    expect([facts.ticket, facts.plant, facts.materials.length, facts.materials[1]!.actual]).toEqual([
      'F-4200',
      'Fernhaul',
      3,
      jasmine.objectContaining({ text: '828', unit: 'kg' }),
    ]);
    const head = csvOf('loads').split('\r\n')[0]!;
    const line = (pour: string, at: string, role: string, mass: string) => `${pour},2,F-1,T,,${at},6 m3,Cement,${role},,${mass},,,`;
    const all = [
      [line('Nowhere', TODAY, 'cement', '1 kg'), 'line 2, pour'],
      [line('Deck west', 'noon', 'cement', '1 kg'), 'line 2, batched'],
      [line('Deck west', TODAY, 'gravel', '1 kg'), 'line 2, role'],
      [`${line('Deck west', TODAY, 'cement', '1 kg')}\n${line('Deck west', TODAY, 'cement', '-1 kg')}`, 'line 3, batched mass'],
      [`${line('Deck west', TODAY, 'cement', '1 kg')}`.replace(',2,', ',1,'), 'line 2, number'],
    ] as const;
    for (const [lines, at] of all) {
      const answer = await bring('loads', `${head}\n${lines}\n`);
      expect([answer.status, faults(answer)[0]]).toEqual([422, at]);
    }
  });

  it('says of each line and column what is wrong, and brings in nothing', async () => {
    const before = await rows();
    const heads = 'kind,name,nominal,calibrated,found\n';
    const kit = await bring('kit', `${heads}measure,Bowl,7 L,2026-08-31,7.043 L\nruler,H,,,\nmeasure,Bowl,7 furlongs,,\nthermometer,,,,\n`);
    expect([kit.status, faults(kit)]).toEqual([422, ['line 3, kind', 'line 4, nominal', 'line 5, name']]);
    expect(kit.body.errors![0]!.message).toContain('measure, air-meter, volume-meter');
    const twice = await bring('kit', `${heads}thermometer,T,,,\nthermometer,T,,,\n`);
    expect(faults(twice)).toEqual(['line 3, name']);
    const mixes = await bring(
      'mixes',
      'code,name,largest,nominal,air,must meet,ingredient,role,mass,gravity,source\n' +
        'X,Mix X,25 mm,19 mm,6.0,Nobody,Cement,cement,340 kg,3.15,\nX,,,,,,Water,water,160 kg,1.000,\n' +
        'Y,Mix Y,25 mm,19 mm,six,,Cement,cement,340 kg,3.15,\nY,,,,,,Stone,gravel,-1 kg,2.6,\n',
    );
    expect(faults(mixes)).toEqual(['line 2, must meet', 'line 4, air', 'line 5, role', 'line 5, mass']);
    expect(faults(await bring('sources', 'name,quarry\nA,B\n'))).toEqual(['line 1, pit', 'line 1, kind', 'line 1, quarry']);
    expect(faults(await bring('specifications', 'name,property,where\nS,slump,here\n'))).toEqual(['line 2, lower', 'line 2, unit']);
    expect(faults(await bring('specifications', 'name,school,property,unit,lower,at days,where\nS,none,slump,mm,50,7,here\n'))).toEqual([
      'line 2, school',
      'line 2, at days',
    ]);
    expect(await rows()).toEqual(before);
  });

  it('reads what spreadsheets write: a mark before the heads, other separators, empty lines', async () => {
    const answer = await bring('sources', '\uFEFFName;Pit;Kind;Nominal\r\nFar sand;Far;fine;4.75 mm\r\n;;;\r\n');
    expect([answer.status, answer.body.made]).toEqual([201, ['Far sand']]);
    expect((await bring('sources', `name,pit,kind\n${'a,b,fine\n'.repeat(1001)}`)).status).toBe(413);
  });

  it('somebody has to be the first of an installation; after that nobody makes themselves', async () => {
    const alone = id();
    const refused = await h.post<Problem>('/people', { id: alone, by: alone, name: 'Nobody Yet', role: 'Technician' });
    expect([refused.status, refused.body.errors?.[0]?.path]).toEqual([422, 'by']);
    expect((await h.post('/people', { id: alone, by, name: 'Wilda Marrow', role: 'Technician' })).status).toBe(201);
  });

  it('tests of a spreadsheet are judged as if they had been keyed then, and what is wrong is told by its line', async () => {
    const lab = await project('OLD');
    const into = (what: ImportWhat, csv: string) => bring(what, csv, false, id(), lab);
    await into('sources', csvOf('sources'));
    await fieldSample(lab);
    expect((await into('tests', csvOf('tests'))).status).toBe(201);
    const [line] = (await h.get<LedgerPage>(`/ledger?project=${lab}`)).body.rows;
    expect([line!.method, line!.at, line!.result?.reported] as unknown[]).toEqual(['moisture', '2026-08-31T09:20:00.000Z', '4.6']);
    const heads = 'of,method,variant,started,reading,value,reason\n';
    const sieves = (retained: string) =>
      `${heads}B-1,gradation,,2026-09-01 14:00,dry,512.4 g,\n` +
      `B-1,gradation,,2026-09-01 14:00,"sieves 1, opening",4.75 mm,\nB-1,gradation,,2026-09-01 14:00,"sieves 1, retained",${retained},\n`;
    expect((await into('tests', sieves('12.8 g'))).status).toBe(201);
    const kept = () => h.count('test', 'item_id IN (SELECT id FROM item WHERE project_id = ?)', [lab]);
    const before = await kept();
    const wrong = await into('tests', sieves('12.8 L').replaceAll('09-01', '09-02'));
    expect([wrong.status, faults(wrong)]).toEqual([422, ['line 4, value']]);
    const lost = await into(
      'tests',
      `${heads}B-9,moisture,,2026-08-31 09:20,wet,1 g,\nB-1,moistness,,2026-08-31 09:20,wet,1 g,\nB-1,moisture,,then,wet,1 g,\n` +
        'B-1,moisture,,2026-08-31 10:20,colour,brown,\nB-1,moisture,,2026-08-31 11:20,wet,-4 g,\nB-1,moisture,x,2026-08-31 12:20,wet,4 g,\n',
    );
    expect(faults(lost)).toEqual([
      'line 2, of',
      'line 3, method',
      'line 4, started',
      'line 5, reading',
      'line 6, value',
      'line 7, variant',
    ]);
    expect(await kept()).toBe(before);
  });

  it('takes a figure as people write it, in its unit', () => {
    expect(['7.043 L', '3 1/4 in', '1:52', '-0.4 %', '12', '1/2 in', 'about 3'].map(quantity)).toEqual([
      { text: '7.043', unit: 'L' },
      { text: '3 1/4', unit: 'in' },
      { text: '1:52', unit: 's' },
      { text: '-0.4', unit: '%' },
      { text: '12', unit: '1' },
      { text: '1/2', unit: 'in' },
      { text: 'about 3', unit: '1' },
    ]);
  });
});
