import {
  IMPORT_IDS,
  importTable,
  type ImportAnswer,
  type ImportWhat,
  type Mix,
  type Page,
  type Problem,
  type Project,
} from '@keen-mortar/contract';
import Papa from 'papaparse';
import { by } from './bench.js';
import { Harness, id } from './harness.js';

const csvOf = (what: ImportWhat): string =>
  Papa.unparse([importTable(what).columns.map((c) => c.head), ...importTable(what).example.map((row) => [...row])]);

describe('what a lab brings in on its first day', () => {
  let h: Harness;
  let projectId: string;
  beforeAll(async () => {
    h = await Harness.withDemo();
    projectId = id();
    const made = await h.post<Project & Problem>('/projects', {
      id: projectId,
      by,
      code: 'NEW',
      name: 'A new lab',
      site: 'Quillmouth',
      system: 'si',
      practice: 'us-astm',
      timezone: 'Etc/UTC',
    });
    if (made.status !== 201) throw new Error(JSON.stringify(made.body));
  });
  afterAll(() => h.stop());

  const bring = (what: ImportWhat, csv: string, dry = false, writeId = id()) =>
    h.post<ImportAnswer & Problem>('/imports', { id: writeId, by, projectId, what, csv, dry });
  const rows = async () =>
    Promise.all([
      h.count('item', 'project_id = ?', [projectId]),
      h.count('specification', 'project_id = ?', [projectId]),
      h.count('mix', 'project_id = ?', [projectId]),
      h.count('equipment', 'project_id = ?', [projectId]),
      h.count('change_log', 'project_id = ?', [projectId]),
    ]);
  const faults = (answer: { body: Problem }) => (answer.body.errors ?? []).map((e) => e.path);

  it('the example of each table comes in, in their order, and a dry run leaves no trace', async () => {
    for (const what of IMPORT_IDS) {
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

  it('says of each line and column what is wrong, and brings in nothing', async () => {
    const before = await rows();
    const heads = 'kind,name,nominal,calibrated,found\n';
    const kit = await bring(
      'kit',
      `${heads}measure,Bowl,7 L,2026-08-31,7.043 L\nhammer,H,,,\nmeasure,Bowl,7 furlongs,,\nthermometer,,,,\n`,
    );
    expect([kit.status, faults(kit)]).toEqual([422, ['line 3, kind', 'line 4, nominal', 'line 5, name']]);
    expect(kit.body.errors![0]!.message).toContain('measure, air-meter, thermometer');
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
});
