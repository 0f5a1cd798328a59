import { tableOf } from './import-page';

describe('a table that is brought in', () => {
  it('may be a list in JSON; what is none stays as it was written, and nothing of it is left out', () => {
    expect(tableOf('[{"load": 7, "truck": "4, red"}, {"load": "8", "water": null, "note": "a \\"late\\" one"}]').split('\r\n')).toEqual([
      'load,truck,water,note',
      '7,"4, red",,',
      '8,,,"a ""late"" one"',
    ]);
    for (const other of ['load,truck\n7,4', '[1, 2]', '[{"load": 7', '[{"load": 7, "materials": [{"name": "Water"}]}]'])
      expect(tableOf(other)).toBe(other);
  });
});
