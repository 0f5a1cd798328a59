import { select, type Cx } from '../db.js';

/** How the rows of one project are found in a table; `x` is the table, and the one value the project’s id. */
export interface RecordTable {
  readonly name: string;
  /** More than one where its rows hang on one thing or on another. */
  readonly from: readonly string[];
  /** What a column holds that the other side numbers itself. */
  readonly without?: readonly string[];
  readonly order?: string;
}

const at = (name: string, joined: string | readonly string[], more: Omit<RecordTable, 'name' | 'from'> = {}): RecordTable => ({
  name,
  from: [joined].flat().map((one) => `${name} x ${one}`),
  ...more,
});
const ofProject = (name: string): RecordTable => at(name, 'WHERE x.project_id = ?');
const ofItem = (name: string): RecordTable => at(name, 'JOIN item i ON i.id = x.item_id WHERE i.project_id = ?');
const ofTest = (name: string): RecordTable =>
  at(name, 'JOIN test t ON t.id = x.test_id JOIN item i ON i.id = t.item_id WHERE i.project_id = ?');
const ofRevision = (name: string): RecordTable =>
  at(name, 'JOIN mix_revision r ON r.id = x.revision_id JOIN mix m ON m.id = r.mix_id WHERE m.project_id = ?');
const ofEquipment = (name: string): RecordTable => at(name, 'JOIN equipment q ON q.id = x.equipment_id WHERE q.project_id = ?');

/**
 * All that a project’s record is, in the order in which its file gives it. What is derived goes along, so that nothing has to be
 * worked out again; tests that wait, and what this server alone counts, does not.
 */
export const RECORD: readonly RecordTable[] = [
  at('person', ', project p WHERE p.id = ?'),
  at('certificate', ', project p WHERE p.id = ?'),
  at('project', 'WHERE x.id = ?'),
  ofProject('specification'),
  at('spec_limit', 'JOIN specification s ON s.id = x.specification_id WHERE s.project_id = ?'),
  at('mix', 'WHERE x.project_id = ?', { without: ['writes'] }),
  at('mix_revision', 'JOIN mix m ON m.id = x.mix_id WHERE m.project_id = ?'),
  ofRevision('revision_specification'),
  ofRevision('ingredient'),
  ofProject('own_copy'),
  ofProject('equipment'),
  ofEquipment('equipment_value'),
  ofEquipment('calibration'),
  at('calibration_value', 'JOIN calibration c ON c.id = x.calibration_id JOIN equipment q ON q.id = c.equipment_id WHERE q.project_id = ?'),
  ofEquipment('kit_finding'),
  at('item', 'WHERE x.project_id = ?', { without: ['writes'] }),
  ofItem('due'),
  ofItem('planned'),
  ofProject('hours'),
  ofItem('meeting'),
  at('meeting_specification', 'JOIN meeting m ON m.id = x.meeting_id JOIN item i ON i.id = m.item_id WHERE i.project_id = ?'),
  at('counter', ['WHERE x.scope_id = ?', 'JOIN item i ON i.id = x.scope_id WHERE i.project_id = ?']),
  ofItem('test'),
  ofTest('test_kit'),
  ofItem('acceptance'),
  ofProject('decision'),
  at('decision_withdrawal', 'JOIN decision d ON d.id = x.decision_id WHERE d.project_id = ?'),
  at('mix_look', 'JOIN mix m ON m.id = x.mix_id WHERE m.project_id = ?'),
  at('entry', [
    'JOIN item i ON i.id = x.owner_id WHERE i.project_id = ?',
    'JOIN test t ON t.id = x.owner_id JOIN item i ON i.id = t.item_id WHERE i.project_id = ?',
  ]),
  ofTest('evaluation'),
  ofTest('result'),
  ofItem('file'),
  at('file_content', 'JOIN file f ON f.id = x.file_id JOIN item i ON i.id = f.item_id WHERE i.project_id = ?'),
  ofProject('report'),
  at('report_paper', 'JOIN report r ON r.id = x.report_id WHERE r.project_id = ?'),
  ofProject('ledger'),
  ofProject('ledger_view'),
  ofItem('standing'),
  ofItem('strength'),
  ofProject('finding'),
  // Lines that wait to be judged again wait there as well.
  at('pending_line', ['JOIN item i ON i.id = x.line_id WHERE i.project_id = ?', 'JOIN mix m ON m.id = x.line_id WHERE m.project_id = ?']),
  ofItem('gift'),
  ofTest('stood_on'),
  at('change_log', 'WHERE x.project_id = ?', { without: ['seq'], order: 'x.seq' }),
];

export interface Column {
  readonly name: string;
  /** Bytes, given as base64. */
  readonly bytes: boolean;
}

/** The columns of a table of the record that go along. */
export async function columnsOf(cx: Cx, table: RecordTable): Promise<Column[]> {
  const rows = await select<{ name: string; type: string }>(
    cx,
    'SELECT column_name AS name, data_type AS type FROM information_schema.columns WHERE table_schema = DATABASE() AND table_name = ? ORDER BY ordinal_position',
    [table.name],
  );
  return rows.filter((c) => !table.without?.includes(c.name)).map(({ name, type }) => ({ name, bytes: type.endsWith('blob') }));
}
