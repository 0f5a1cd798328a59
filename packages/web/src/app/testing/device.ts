import { TestBed } from '@angular/core/testing';
import { Device } from '../device/device';

/** The device with no write that waits: what another test left there would be sent in this one. */
export async function emptyDevice(): Promise<Device> {
  const device = TestBed.inject(Device);
  for (const c of await device.commands()) await device.dropCommand(c.id);
  for (const a of await device.aside()) await device.dropAside(a.id);
  return device;
}
