import { exact, ticketRemarks, type TicketLine } from '../src/index.js';

const line = (name: string, design: string | null, actual: string | null): TicketLine => ({
  name,
  design: design === null ? null : exact(design),
  actual: actual === null ? null : exact(actual),
});
const kinds = (...lines: TicketLine[]) => ticketRemarks(lines).map(({ at, kind }) => [at, kind]);

describe('a ticket beside its mix', () => {
  it('is remarked from 5 % on and asked about from 20 % on, both ends inclusive', () => {
    expect(kinds(line('Cement', '2000', '2100'))).toEqual([]);
    expect(kinds(line('Cement', '2000', '2101'))).toEqual([[0, 'off']]);
    expect(kinds(line('Cement', '2000', '1600'))).toEqual([[0, 'off']]);
    expect(kinds(line('Cement', '2000', '1599'))).toEqual([[0, 'far']]);
    expect(ticketRemarks([line('Water', '960', '0')])[0]!.says).toBe('Water: 100 % less than the design.');
    expect(ticketRemarks([line('Sand', '4300', '43000')])[0]!.says).toBe('Sand: 900 % more than the design.');
  });

  it('names two that stand in each other’s place, and not one that only happens to be like another', () => {
    expect(kinds(line('Cement', '2040', '360'), line('Fly ash', '360', '2037'))).toEqual([
      [0, 'exchanged'],
      [1, 'exchanged'],
    ]);
    expect(kinds(line('Cement', '2040', '360'), line('Fly ash', '360', '361'))).toEqual([[0, 'far']]);
  });

  it('says nothing of what has no design, or is not keyed yet', () => {
    expect(kinds(line('Ice', null, '40'), line('Fibre', '0', '4'), line('Water', '960', null))).toEqual([]);
  });
});
