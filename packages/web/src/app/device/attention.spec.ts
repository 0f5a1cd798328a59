import { TestBed } from '@angular/core/testing';
import { Attention } from './attention';

describe('the screen', () => {
  it('is kept awake again when the page comes back to sight, as long as a clock burns', async () => {
    const asked = jasmine.createSpy('request').and.resolveTo({ release: () => Promise.resolve() });
    const own = Object.getOwnPropertyDescriptor(Navigator.prototype, 'wakeLock');
    Object.defineProperty(navigator, 'wakeLock', { value: { request: asked }, configurable: true });
    const attention = TestBed.inject(Attention);
    const seen = (): boolean => document.dispatchEvent(new Event('visibilitychange'));
    seen();
    expect(asked).not.toHaveBeenCalled();
    await attention.stayAwake(true);
    seen();
    expect(asked).toHaveBeenCalledTimes(2);
    await attention.stayAwake(false);
    seen();
    expect(asked).toHaveBeenCalledTimes(2);
    Reflect.deleteProperty(navigator, 'wakeLock');
    expect(own === undefined || 'wakeLock' in navigator).toBeTrue();
  });
});
