import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideStore, Store } from '@ngrx/store';
import { Chart } from 'chart.js';
import { session, SessionActions } from '../state/session';
import { axis, ChartBox, type Drawing, type Inks } from './chart';
import { momentText } from '../parts/when';

describe('a chart', () => {
  it('is drawn in the colours of the theme, again with each change, and says what it shows', async () => {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection(), provideStore({ [session.name]: session.reducer })] });
    const used: Inks[] = [];
    const line =
      (y: number): Drawing =>
      (inks) => {
        used.push(inks);
        return { type: 'scatter', data: { datasets: [{ data: [{ x: 1, y }] }] }, options: {} };
      };
    const fixture = TestBed.createComponent(ChartBox);
    const settle = async (): Promise<void> => {
      await fixture.whenStable();
      await new Promise((resolve) => setTimeout(resolve, 5));
    };
    fixture.componentRef.setInput('says', 'One point');
    fixture.componentRef.setInput('drawing', line(2));
    await settle();
    const canvas = (fixture.nativeElement as HTMLElement).querySelector('canvas')!;
    const chart = Chart.getChart(canvas)!;
    expect([canvas.getAttribute('aria-label'), canvas.getAttribute('role')]).toEqual(['One point', 'img']);
    fixture.componentRef.setInput('drawing', line(3));
    await settle();
    expect([Chart.getChart(canvas) === chart, chart.data.datasets[0]!.data]).toEqual([true, [{ x: 1, y: 3 }]]);
    document.documentElement.dataset['theme'] = 'dark';
    TestBed.inject(Store).dispatch(SessionActions.themeChosen({ theme: 'dark' }));
    await settle();
    expect(used.length).toBe(3);
    expect(used[2]!.ink).not.toBe(used[0]!.ink);
    // On paper it wears what the shell puts on, at a width that paper has.
    document.documentElement.dataset['theme'] = 'glare';
    dispatchEvent(new Event('beforeprint'));
    expect([used[3]!.ink, chart.width]).toEqual(['#000000', 600]);
    document.documentElement.dataset['theme'] = 'dark';
    dispatchEvent(new Event('afterprint'));
    expect([used[4]!.ink, chart.width === 600]).toEqual([used[2]!.ink, false]);
    document.documentElement.dataset['theme'] = 'light';
    fixture.destroy();
    expect(Chart.getChart(canvas)).toBeUndefined();
  });

  it('writes its numbers as they are keyed: no thousands mark, no tail of a double', () => {
    const { ticks } = axis('Mass, g', { min: 0 }) as { ticks: { callback: (value: number) => string } };
    expect([2416, 0.30000000000000004, -1e-7].map(ticks.callback)).toEqual(['2416', '0.3', '-0.0000001']);
  });
});

describe('moments', () => {
  it('read by the device’s clock', () => {
    const iso = new Date(2026, 5, 9, 10, 20, 0).toISOString();
    expect(momentText(iso)).toMatch(/^Tue,? 9 Jun 2026,? 10:20$/);
    expect(momentText('this morning')).toBe('this morning');
  });
});
