import type { RequestHandler } from 'express';
import { Refused } from '../problems.js';

const LOOPBACK: ReadonlySet<string> = new Set(['localhost', '127.0.0.1', '[::1]']);
const READS: ReadonlySet<string> = new Set(['GET', 'HEAD', 'OPTIONS']);

/** Host name of a Host header, without its port. */
const nameOf = (host: string): string => host.replace(/:\d+$/, '').toLowerCase();

/**
 * Only requests to this server by one of its names; writes only from its own pages. A page of another
 * name that resolves to this machine is refused by the Host that it sends, a page of another site by its
 * Origin. What sends no Origin is no browser's page.
 */
export function onlyOurs(hosts: readonly string[]): RequestHandler {
  const names = new Set([...LOOPBACK, ...hosts.map((host) => host.toLowerCase())]);
  return (req, _res, next) => {
    const host = req.headers.host ?? '';
    if (!names.has(nameOf(host))) throw new Refused('wrong-host', `Ask this server as ${[...names].join(' or ')}.`);
    const { origin } = req.headers;
    const site = req.headers['sec-fetch-site'];
    const own = origin === undefined || origin === `http://${host}` || origin === `https://${host}`;
    const fromElsewhere = site !== undefined && site !== 'same-origin' && site !== 'none';
    if (!READS.has(req.method) && (!own || fromElsewhere)) throw new Refused('cross-site', 'This write comes from another site’s page.');
    next();
  };
}
