import { inject, Injectable } from '@angular/core';
import type { DeviceCodes } from '@keen-mortar/contract';
import { Api } from '../api/api';
import type { Command } from './device-db';
import { newId } from './ids';

const KEY = 'km.device';

interface Known extends DeviceCodes {
  /** The last number of each kind. */
  readonly last: Readonly<Record<string, number>>;
}

function known(): Partial<Known> | null {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? 'null') as Partial<Known> | null;
  } catch {
    return null;
  }
}

const KINDS: Partial<Record<Command['kind'], string>> = { specimens: 'specimen-set', sample: 'sample' };

/** What is made without a network has a code all the same, to be written on a mold: this device’s own letters, and the next number. */
@Injectable({ providedIn: 'root' })
export class Codes {
  private readonly api = inject(Api);
  private asking = false;

  /** Asks for the letters, once for good. Asked again it is the same device. */
  ready(by: string | null): void {
    const device = known();
    if (device?.begins || this.asking || by === null) return;
    this.asking = true;
    const id = device?.id ?? newId();
    localStorage.setItem(KEY, JSON.stringify({ id }));
    this.api.write<DeviceCodes>('/devices', { id, by }).subscribe({
      next: ({ begins }) => localStorage.setItem(KEY, JSON.stringify({ id, begins, last: {} } satisfies Known)),
      error: () => (this.asking = false),
    });
  }

  /** The write with a code, where it makes something that has letters and this device has its own. */
  called(command: Command): Command {
    const device = known();
    const kind = KINDS[command.kind] ?? (command.kind === 'item' ? String(command.body['kind']) : '');
    const begins = device?.begins?.[kind];
    if (begins === undefined || command.body['code'] !== undefined) return command;
    const number = (device?.last?.[kind] ?? 0) + 1;
    localStorage.setItem(KEY, JSON.stringify({ ...device, last: { ...device?.last, [kind]: number } }));
    return { ...command, body: { ...command.body, code: `${begins}${number}` } };
  }
}
