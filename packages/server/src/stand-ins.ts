import { AirMeter, Balance, Press, serveStandIn } from './instruments/stand-ins.js';

/* The instruments of the demonstration: a real one would be put in the place of each, at its port. */
const served = await Promise.all([
  serveStandIn(new Balance('balance-1', 'Balance 1, 30 kg', 'kg', 30, 3)),
  serveStandIn(new Balance('balance-2', 'Balance 2, 8 kg', 'g', 8200, 1)),
  serveStandIn(new AirMeter('air-meter-1', 'Air meter 1', 6.4)),
  serveStandIn(new Press('machine-1', 'Press 1, 2000 kN')),
]);
process.send?.({ kind: 'stand-ins', ports: served.map((s) => s.port) });

const stop = (): void => void Promise.all(served.map((s) => s.stop())).then(() => process.exit(0));
process.on('SIGTERM', stop);
process.on('disconnect', stop);
