import { createServer as createTcp, type Socket } from 'node:net';
import type { InstrumentReading } from '@keen-mortar/contract';
import { Instruments } from '../src/instruments/bridge.js';
import { parseLine } from '../src/instruments/protocol.js';
import { AirMeter, Balance, Press, serveStandIn } from '../src/instruments/stand-ins.js';

const until = async (holds: () => boolean, within = 5000): Promise<void> => {
  for (const end = Date.now() + within; !holds(); await new Promise((r) => setTimeout(r, 20)))
    if (Date.now() > end) throw new Error(`not within ${within} ms: ${String(holds)}`);
};

describe('the line protocol', () => {
  it('is read, and nothing else is taken for it', () => {
    expect(parseLine('HELLO balance balance-1 Balance 1, 30 kg')).toEqual({
      is: 'hello',
      kind: 'balance',
      id: 'balance-1',
      name: 'Balance 1, 30 kg',
    });
    expect(parseLine('READ 19.312 kg STABLE')).toEqual({ is: 'read', text: '19.312', unit: 'kg', state: 'stable', says: null });
    expect(parseLine('READ -0.4 % MOVING past the line')).toEqual({
      is: 'read',
      text: '-0.4',
      unit: '%',
      state: 'moving',
      says: 'past the line',
    });
    expect(parseLine('READ - - FAULT overloaded')).toEqual({ is: 'read', text: null, unit: null, state: 'fault', says: 'overloaded' });
    for (const line of [
      '',
      'READ',
      'READ 1e9 kg STABLE',
      'READ 1.2 stone STABLE',
      'READ 19.3 kg',
      'HELLO toaster t T',
      `HELLO balance ${'x'.repeat(30)} B`,
      'GET / HTTP/1.1',
    ])
      expect([line, parseLine(line)]).toEqual([line, null]);
  });
});

describe('instruments at the end of a line', () => {
  const stops: (() => unknown)[] = [];
  afterEach(async () => {
    for (const stop of stops.splice(0).reverse()) await stop();
  });
  const wire = async (port: number) => {
    const instruments = new Instruments([{ host: '127.0.0.1', port }]);
    instruments.start();
    stops.push(() => instruments.stop());
    await until(() => instruments.all().length === 1);
    const heard: InstrumentReading[] = [];
    const id = instruments.all()[0]!.id;
    instruments.listen(id, (r) => heard.push(r));
    return { instruments, id, heard, last: () => heard.at(-1)! };
  };

  it('a balance moves before it stands; overloaded it says so; unplugged it is away, and comes back', async () => {
    const balance = new Balance('b-1', 'Balance', 'kg', 30, 3);
    const served = await serveStandIn(balance);
    const { instruments, id, heard, last } = await wire(served.port);
    expect(await instruments.command(id, { does: 'PUT', with: '19.31' })).toEqual({ ok: true, says: 'PUT' });
    await until(() => last().text === '19.310' && last().state === 'stable');
    expect(heard.some((r) => r.state === 'moving')).toBeTrue();
    await instruments.command(id, { does: 'PUT', with: '31' });
    await until(() => last().state === 'fault');
    expect(last()).toEqual(jasmine.objectContaining({ text: null, says: 'overloaded' }));
    expect(await instruments.command(id, { does: 'PUMP' })).toEqual({ ok: false, says: 'there is no PUMP' });
    await served.stop();
    await until(() => last().state === 'away');
    expect((await instruments.command(id, { does: 'ZERO' }))!.ok).toBeFalse();
    stops.push((await serveStandIn(balance, served.port)).stop);
    await until(() => last().state !== 'away', 10_000);
  });

  it('an air meter is brought onto its line, opened and tapped until it stands; one that leaks never does', async () => {
    const served = await serveStandIn(new AirMeter('m-1', 'Meter', 6.4));
    stops.push(served.stop);
    const { instruments, id, last } = await wire(served.port);
    const does = async (word: string, what?: string) => (await instruments.command(id, { does: word, ...(what ? { with: what } : {}) }))!;
    expect((await does('OPEN')).ok).toBeFalse();
    for (const word of ['PUMP', 'TAP']) expect((await does(word)).ok).toBeTrue();
    await until(() => last().state === 'stable' && last().text === '0.0');
    for (const word of ['OPEN', 'TAP', 'TAP']) await does(word);
    await until(() => last().state === 'stable' && last().text !== '0.0');
    expect(last()).toEqual(jasmine.objectContaining({ text: '6.4', unit: '%' }));
    await does('LEAK', 'ON');
    await until(() => last().state === 'moving' && Number(last().text) > 6.5);
  });

  it('what is no instrument is cut off: a line without an end, and silence', async () => {
    const sockets: Socket[] = [];
    const server = createTcp((socket) => {
      sockets.push(socket);
      socket.on('error', () => undefined);
      socket.write('x'.repeat(1000));
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    stops.push(() => server.close());
    const instruments = new Instruments([{ host: '127.0.0.1', port: (server.address() as { port: number }).port }]);
    instruments.start();
    stops.push(() => instruments.stop());
    await until(() => sockets[0]?.destroyed === true);
    expect(instruments.all()).toEqual([]);
  });

  it('a machine loads, holds the largest load and its trace over a lost line, and gives both again', async () => {
    const served = await serveStandIn(new Press('p-1', 'Machine'));
    stops.push(() => served.stop());
    const { instruments, id, last } = await wire(served.port);
    const tell = (does: string, what?: string) => instruments.command(id, { does, ...(what === undefined ? {} : { with: what }) })!;
    expect(await tell('TRACE')).toEqual({ ok: false, says: 'nothing was loaded since it was zeroed' });
    for (const [word, what] of [
      ['PUT', '251.2'],
      ['RATE', '2.03'],
      ['HURRY', '200'],
      ['START', undefined],
    ] as const)
      expect((await tell(word, what)).ok).toBeTrue();
    await until(() => last().state === 'stable' && last().text === '251.2');
    const { points = [] } = await tell('TRACE');
    expect(points.length).toBeGreaterThan(20);
    expect(points.find((p) => p.load === '251.2')).toBeDefined();
    // The latter half goes at the rate that was set.
    const late = points.slice(0, -2).filter((p) => Number(p.load) > 130);
    const slope = (Number(late.at(-1)!.load) - Number(late[0]!.load)) / (Number(late.at(-1)!.time) - Number(late[0]!.time));
    expect(slope).toBeCloseTo(2.03, 1);
    // Another line to the same machine, as after it was plugged in again.
    const again = new Instruments([{ host: '127.0.0.1', port: served.port }]);
    again.start();
    stops.push(() => again.stop());
    await until(() => again.all()[0]?.reading.text === '251.2');
    expect((await again.command(id, { does: 'TRACE' })!).points).toEqual(points);
  });
});
